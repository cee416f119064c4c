import { z } from 'zod';
import { isoDay } from '@/core/calendar/day';
import { DEVICES } from '@/core/intake/rowReader';
import { INTENTS } from '@/core/model/intents';
import type { DaysCompared } from '@/core/wording/days';
import { daysSentence } from '@/core/wording/days';
import { ENTITY_KINDS } from '@/core/wording/entities';
import { TITLE_MARKS } from '@/core/wording/marks';
import {
  ABOVE_KINDS,
  RESULT_EXTRAS,
  RESULT_KINDS,
  type Result,
  type ResultPage,
} from '@/core/wording/resultPage';
import { wordingSentence } from '@/core/wording/wordingSentence';
import type { Wording } from '@/core/wording/wording';

/* Result pages, what they have in common, and in what two days differ. */

const resultJson = z
  .object({
    rank: z.int(),
    address: z.string(),
    title: z.string(),
    description: z.string().nullable(),
    kind: z.enum(RESULT_KINDS).nullable(),
    dateShown: z.string().nullable(),
    extras: z.array(z.enum(RESULT_EXTRAS)),
  })
  .meta({ id: 'Result' });

export const resultPageJson = z
  .object({
    id: z.int(),
    query: z.string(),
    day: z.string(),
    device: z.string(),
    results: z.array(resultJson),
    above: z.array(z.object({ kind: z.enum(ABOVE_KINDS), own: z.boolean().nullable() })),
    ownQuestions: z.array(z.string()),
    asked: z.array(z.string()),
    related: z.array(z.string()),
    bold: z.array(z.string()),
  })
  .meta({ id: 'ResultPage' });

const resultToJson = ({ rank, address, title, description, kind, dateShown, extras }: Result) => ({
  ...{ rank, address, title, description, kind, dateShown, extras: [...extras] },
});

export function resultPageToJson({
  id,
  query,
  day,
  device,
  results,
  above,
  ownQuestions,
  asked,
  related,
  bold,
}: ResultPage): z.infer<typeof resultPageJson> {
  const [named] = Object.entries(DEVICES).find(([, code]) => code === device) ?? ['all'];
  return {
    ...{ id, query: query.text, day: isoDay(day), device: named },
    results: results.map(resultToJson),
    ...{ above: [...above], ownQuestions: [...ownQuestions], asked: [...asked] },
    ...{ related: [...related], bold: [...bold] },
  };
}

const termJson = z.object({
  term: z.string().meta({ description: 'Its stems, by which it is known.' }),
  forms: z.array(z.string()).meta({ description: 'How it is written, the most frequent first.' }),
  words: z.int(),
  results: z.int(),
  share: z.number().meta({ description: 'Of the results, weighted by rank.' }),
  inTitle: z.boolean().meta({ description: 'Whether one’s own title says it.' }),
});
const middleJson = z
  .object({ own: z.number().nullable(), low: z.number(), middle: z.number(), high: z.number() })
  .nullable()
  .meta({ description: 'The middle half of the other results, and one’s own.' });

export const wordingJson = z
  .object({
    sentence: z.string(),
    results: z.array(
      z.object({
        ...{ rank: z.int(), address: z.string(), title: z.string(), kind: z.enum(RESULT_KINDS) },
        ...{ own: z.boolean(), marks: z.array(z.enum(TITLE_MARKS)), characters: z.int(), pixels: z.int() },
      }),
    ),
    terms: z.array(termJson),
    missing: z.array(termJson).meta({ description: 'Terms that one’s own title does not say.' }),
    entities: z.array(
      z.object({ text: z.string(), kind: z.enum(ENTITY_KINDS), results: z.int(), inTitle: z.boolean() }),
    ),
    rare: z.array(z.object({ form: z.string(), results: z.int(), ownPages: z.int() })),
    lengths: z.object({ characters: middleJson, pixels: middleJson }),
    marks: z.record(z.enum(TITLE_MARKS), z.object({ results: z.int(), own: z.boolean() })),
    intent: z.object({ guess: z.enum(INTENTS).nullable(), reasons: z.array(z.string()) }),
  })
  .meta({ id: 'Wording' });

export function wordingToJson(wording: Wording): z.infer<typeof wordingJson> {
  const { results, terms, missing, entities, rare, lengths, marks, intent } = wording;
  const term = ({ term: stems, forms, words, results: n, share, inTitle }: Wording['terms'][number]) => ({
    ...{ term: stems, forms: [...forms], words, results: n, share, inTitle },
  });
  return {
    sentence: wordingSentence(wording),
    results: results.map(({ result, own, kind, marks: used, measured }) => ({
      ...{ rank: result.rank, address: result.address, title: result.title, kind, own, marks: [...used] },
      ...{ characters: measured.characters, pixels: measured.pixels },
    })),
    ...{ terms: terms.map(term), missing: missing.map(term), entities: [...entities], rare: [...rare] },
    ...{ lengths, marks, intent: { guess: intent.guess, reasons: [...intent.reasons] } },
  };
}

export const resultsComparisonJson = z
  .object({
    sentence: z.string(),
    before: z.object({ id: z.int(), day: z.string() }),
    after: z.object({ id: z.int(), day: z.string() }),
    came: z.array(resultJson),
    went: z.array(resultJson),
    stayed: z.array(
      z.object({
        ...{ address: z.string(), rankBefore: z.int(), rankAfter: z.int(), placesGained: z.int() },
        ...{
          titleBefore: z.string(),
          titleAfter: z.string(),
          retitled: z.boolean(),
          redescribed: z.boolean(),
        },
        ...{ extrasGained: z.array(z.enum(RESULT_EXTRAS)), extrasLost: z.array(z.enum(RESULT_EXTRAS)) },
      }),
    ),
    aboveCame: z.array(z.enum(ABOVE_KINDS)),
    aboveWent: z.array(z.enum(ABOVE_KINDS)),
    kindChanged: z.object({ from: z.enum(RESULT_KINDS), to: z.enum(RESULT_KINDS) }).nullable(),
  })
  .meta({ id: 'ResultsComparison' });

export function resultsComparisonToJson(
  before: ResultPage,
  after: ResultPage,
  compared: DaysCompared,
): z.infer<typeof resultsComparisonJson> {
  const side = ({ id, day }: ResultPage) => ({ id, day: isoDay(day) });
  return {
    ...{ sentence: daysSentence(compared), before: side(before), after: side(after) },
    ...{ came: compared.came.map(resultToJson), went: compared.went.map(resultToJson) },
    stayed: compared.stayed.map(
      ({ address, before: was, after: now, gained, retitled, redescribed, extrasGained, extrasLost }) => ({
        ...{ address, rankBefore: was.rank, rankAfter: now.rank, placesGained: gained },
        ...{
          titleBefore: was.title,
          titleAfter: now.title,
          retitled,
          redescribed,
        },
        ...{ extrasGained: [...extrasGained], extrasLost: [...extrasLost] },
      }),
    ),
    ...{
      aboveCame: [...compared.aboveCame],
      aboveWent: [...compared.aboveWent],
      kindChanged: compared.kindChanged,
    },
  };
}
