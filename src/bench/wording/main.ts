/*
 * How long it takes to tell what ten results have in common, with titles of 200 characters, once the words and the model are loaded.
 */
import { INTENT_WORDS } from '../../core/words/intent';
import { draftReport } from '../../core/wording/draft';
import { englishReader } from '../../core/wording/englishReader';
import type { Result } from '../../core/wording/resultPage';
import { wordingOf, type WordingBasis } from '../../core/wording/wording';
import { ENGLISH } from '../../core/words/stems';

const WORDS =
  'winter feeding bees fondant sugar syrup hive when how much guide beginners 2026 colony october weigh quilt candy board recipe amounts mistakes months cluster food stores queen brood'.split(
    ' ',
  );
const [LONG, TURNS] = [200, 200];

/** A title of some two hundred characters; each turn has other ones, so that nothing is known from before. */
function title(seed: number): string {
  let text = '';
  for (let i = 0; text.length < LONG; i++)
    text += `${WORDS[(seed * 7 + i * (3 + (seed % 5))) % WORDS.length]}${i % 6 === 5 ? ': ' : ' '}`;
  return text.slice(0, LONG).trim();
}

async function main(): Promise<void> {
  let start = performance.now();
  const read = await englishReader();
  read('Winter feeding in 2026');
  console.log(`loading the model: ${(performance.now() - start).toFixed(0)} ms`);
  const basis: WordingBasis = {
    ...{ lexicon: ENGLISH, intents: INTENT_WORDS.en, leftOut: new Set<string>(), read, ownPages: null },
  };
  const times: number[] = [];
  const drafts: number[] = [];
  for (let turn = 0; turn < TURNS; turn++) {
    const results = Array.from({ length: 10 }, (_, i): Result => ({
      ...{
        rank: i + 1,
        title: title(turn * 10 + i),
        address: `https://rival${i}.example/`,
        description: null,
      },
      ...{ kind: null, dateShown: null, extras: [] },
    }));
    start = performance.now();
    const wording = wordingOf(
      { query: { id: 1, text: 'winter feeding bees' }, results },
      (a) => a.includes('rival3'),
      basis,
    );
    times.push(performance.now() - start);
    start = performance.now();
    draftReport('Winter feeding for bees: fondant, syrup and when to stop [2026]', {
      ...{
        of: 'title',
        lexicon: ENGLISH,
        terms: wording.terms,
        others: results.map((one) => one.title),
        read,
      },
      ...{ present: 'Winter feeding', query: 'winter feeding bees', searches: [], address: null, year: 2026 },
    });
    drafts.push(performance.now() - start);
  }
  const at = (list: number[], share: number) =>
    list.sort((a, b) => a - b)[Math.floor(share * (list.length - 1))]!.toFixed(1);
  console.log(
    `ten results of ${LONG} characters: median ${at(times, 0.5)} ms, 19 in 20 under ${at(times, 0.95)} ms, most ${at(times, 1)} ms`,
  );
  console.log(
    `a draft held against them: median ${at(drafts, 0.5)} ms, 19 in 20 under ${at(drafts, 0.95)} ms`,
  );
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
