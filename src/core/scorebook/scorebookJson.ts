import { z } from 'zod';
import { jsonFrom, ratioJson } from '../model/json';
import type { Scorebook } from './book';
import { lineSentence } from './scorebookSentence';
import { TITLE_CHANGE_MARKS } from './titleChange';

const range = z.object({ low: ratioJson, high: ratioJson });
const measure = z.enum(['appeal', 'clicks']);

const forecast = z.object({
  key: z.string(),
  forecasts: z.int(),
  met: z.int(),
  notMet: z.int(),
  cannotBeTold: z.int(),
  expected: ratioJson.nullable().meta({ description: 'Mean, as a ratio.' }),
  came: ratioJson.nullable(),
});

const line = jsonFrom(
  z.object({
    key: z.string(),
    changes: z.int(),
    rounds: z.int(),
    lifted: z.int(),
    dropped: z.int(),
    held: z.int(),
    unclear: z.int(),
    effect: range.extend({ measure, ratio: ratioJson }).nullable(),
    spread: z.number().nullable().meta({ description: 'Standard deviation of true effects, in logs.' }),
    next: range.nullable().meta({ description: 'The range for the effect of the next one, as ratios.' }),
    sentence: z.string(),
  }),
  (one: Scorebook['lines'][number]) => ({
    ...one,
    sentence: lineSentence(one.name, one),
    effect: one.pooled && { ...one.pooled, ratio: one.pooled.net },
    spread: one.pooled && one.pooled.spread,
    next: one.pooled && one.pooled.next,
  }),
);

const winner = jsonFrom(
  z.object({
    changeId: z.int().nullable(),
    roundId: z.int().nullable(),
    title: z.string(),
    measure,
    ratio: ratioJson.meta({ description: 'Drawn toward its kind.' }),
    raw: ratioJson,
    p: z.number(),
  }),
  ({ scored, shrunken, ...ranked }: Scorebook['ranked'][number]) => ({
    ...scored,
    ...ranked,
    ratio: shrunken,
  }),
);

const mark = jsonFrom(
  range.extend({ mark: z.enum(TITLE_CHANGE_MARKS), changes: z.int(), ratio: ratioJson }),
  (one: Scorebook['marks'][number]) => ({ ...one, ratio: one.net }),
);

/** What each type of change has brought, as the API answers with it. */
export const scorebookJson = jsonFrom(
  z
    .object({
      items: z.array(line),
      winners: z.array(winner).meta({ description: 'All that was read, the best first.' }),
      expectedFalse: z.number().nullable().meta({
        description: 'Of those whose range excludes nothing, the share to be expected to be none.',
      }),
      marks: z.array(mark),
      forecasts: z.object({
        person: z.array(forecast),
        kind: z.array(forecast),
        openings: z
          .object({ openings: z.int(), estimated: z.number(), came: z.number(), within: z.int() })
          .nullable()
          .meta({ description: 'Clicks a month.' }),
      }),
    })
    .meta({ id: 'Scorebook' }),
  (book: Scorebook) => ({
    ...book,
    items: book.lines,
    winners: book.ranked,
    forecasts: { ...book.forecasts, openings: book.openings },
  }),
);
