import { LRUCache } from 'lru-cache';
import type { IntentWords } from '../../core/words/intent';
import type { Site } from '../../core/model/site';
import { lexiconOf, type Lexicon } from '../../core/words/stems';
import type { Db } from '../../store/database';
import { siteWords } from '../../store/words';

/** Languages with the words of sites that are kept, since stems of words that were met are. */
const kept = new LRUCache<string, Lexicon>({ max: 12 });

/** The lexicon of a site’s language, and its words that signal search intent. */
export function wordsOfSite(
  db: Db,
  { id, language }: Pick<Site, 'id' | 'language'>,
): { readonly lexicon: Lexicon; readonly intents: IntentWords } {
  const { joining, ...intents } = siteWords(db, id, language);
  const key = `${language} ${joining.join(' ')}`;
  const lexicon = kept.get(key) ?? lexiconOf(language, joining);
  kept.set(key, lexicon);
  return { lexicon, intents };
}
