import { and, eq } from 'drizzle-orm';
import type { Language } from '../core/model/languages';
import { WORD_PURPOSES, type WordPurpose } from '../core/words/purposes';
import { usualWords } from '../core/words/usual';
import type { Db } from './database';
import { siteWord } from './schema';
import { write } from './write';

/** The words of a site in a language, by what they are for: its own where it has some, else the usual ones. */
export function siteWords(
  db: Db,
  siteId: number,
  language: Language,
): Readonly<Record<WordPurpose, readonly string[]>> {
  const rows = db
    .select({ purpose: siteWord.purpose, words: siteWord.words })
    .from(siteWord)
    .where(and(eq(siteWord.siteId, siteId), eq(siteWord.language, language)))
    .all();
  const own = rows.map(({ purpose, words }) => [purpose, words.split('\n').filter(Boolean)] as const);
  return { ...usualWords(language), ...Object.fromEntries(own) };
}

/** Keeps the words of a site for a purpose. None, or the usual ones, are those that come by themselves. */
export async function saveSiteWords(
  db: Db,
  siteId: number,
  language: Language,
  words: Partial<Record<WordPurpose, readonly string[]>>,
): Promise<void> {
  const usual = usualWords(language);
  const same = (a: readonly string[], b: readonly string[]) => [...a].sort().join() === [...b].sort().join();
  await write(db, () => {
    for (const purpose of WORD_PURPOSES) {
      const given = words[purpose];
      if (!given) continue;
      const at = { siteId, language, purpose };
      if (given.length === 0 || same(given, usual[purpose])) {
        db.delete(siteWord)
          .where(
            and(
              ...[eq(siteWord.siteId, siteId), eq(siteWord.language, language)],
              eq(siteWord.purpose, purpose),
            ),
          )
          .run();
      } else {
        const text = given.join('\n');
        db.insert(siteWord)
          .values({ ...at, words: text })
          .onConflictDoUpdate({
            target: [siteWord.siteId, siteWord.language, siteWord.purpose],
            set: { words: text },
          })
          .run();
      }
    }
  });
}
