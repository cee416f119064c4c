import { TempStore } from '../../../tests/support/tempDb';
import { saveSiteWords, siteWords } from '../../store/words';
import { wordsOfSite } from './siteWords';
import { intentOf } from '../../core/words/intent';

let store: TempStore;
beforeEach(() => {
  store = new TempStore();
});
afterEach(() => store.close());

test('words of a site take the place of the usual ones of its language, and an empty list brings these back', async () => {
  const site = await store.site();
  const usual = siteWords(store.db, site.id, 'en');
  expect(usual['to-buy']).toContain('price');
  await saveSiteWords(store.db, site.id, 'en', { 'to-buy': ['swarm'], joining: ['bee'] });
  expect(siteWords(store.db, site.id, 'en')).toEqual({ ...usual, 'to-buy': ['swarm'], joining: ['bee'] });
  expect(siteWords(store.db, site.id, 'de')['to-buy']).toContain('kaufen');

  const { lexicon, intents } = wordsOfSite(store.db, site);
  expect(lexicon.joining.has('bee')).toBe(true);
  expect(intentOf('swarm price', false, intents)).toBe('to-buy');
  expect(intentOf('hive price', false, intents)).toBeNull();

  await saveSiteWords(store.db, site.id, 'en', { 'to-buy': [], joining: usual.joining });
  expect(siteWords(store.db, site.id, 'en')).toEqual(usual);
});
