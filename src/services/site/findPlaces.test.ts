import { newChangeSchema } from '../../core/model/change';
import { newEventSchema } from '../../core/model/event';
import { TempStore } from '../../../tests/support/tempDb';
import { newReportSchema } from '../../core/model/report';
import { aRound } from '../../../tests/support/round';
import { addReport } from '../../store/reports/reports';
import { addChange } from '../../store/ledger/changes';
import { addEvent } from '../../store/ledger/events';
import { findPlaces } from './findPlaces';
import { SiteContext } from './siteContext';

test('pages, queries, changes and events are found by their words, the closest name first', async () => {
  const store = new TempStore();
  const site = await store.site();
  await store.import(
    site,
    [
      'date,page,query,clicks,impressions,position',
      ...['mead recipe', 'how to make mead', 'meadow flowers', '100% mead_wine', 'bee smoker'].map(
        (query) => `2026-03-01,/guides/mead-basics/,${query},1,10,4`,
      ),
      '2026-03-01,/settled/,x,1,10,4',
    ].join('\n'),
  );
  const change = { title: 'Mead', kind: 'title', day: '2026-03-01', pages: ['/guides/mead-basics/'] };
  await addChange(store.db, site, newChangeSchema.parse(change));
  const event = { name: 'Meadow fair', kind: 'other', firstDay: '2026-03-02', lastDay: '2026-03-02' };
  await addEvent(store.db, site.id, newEventSchema.parse(event));
  const find = (typed: string) =>
    findPlaces(new SiteContext(store.db, site), typed).map(({ kind, name }) => `${kind} ${name}`);
  expect(find('mead')).toEqual([
    'change Mead',
    ...['page /guides/mead-basics/', 'event Meadow fair', 'query mead recipe', 'query meadow flowers'],
    ...['query 100% mead_wine', 'query how to make mead'],
  ]);
  await aRound(store.db, site, ['/guides/mead-basics/'], { name: 'Winter titles' });
  await addReport(
    store.db,
    site.id,
    newReportSchema.parse({ title: 'Autumn report', from: '2026-09-01', to: '2026-11-30' }),
  );
  expect([find('winter'), find('autumn')]).toEqual([['round Winter titles'], ['report Autumn report']]);
  expect(find('basics mead')).toEqual(['page /guides/mead-basics/']);
  // Signs that mean something to the database mean themselves.
  expect(find('100%')).toEqual(['query 100% mead_wine']);
  expect([find(''), find('%'), find('zzz')]).toEqual([[], [], []]);
  store.close();
});
