import { z } from 'zod';
import type { Scorebook } from '@/core/scorebook/book';
import type { ForecastScore } from '@/core/scorebook/forecasts';
import { lineSentence } from '@/core/scorebook/scorebookSentence';
import { TITLE_CHANGE_MARKS } from '@/core/scorebook/titleChange';

/* What each sort of change brought. */

const range = z.object({ low: z.number(), high: z.number() });
const measure = z.enum(['appeal', 'clicks']);
const forecast = z.object({
  key: z.string(),
  forecasts: z.int(),
  met: z.int(),
  notMet: z.int(),
  cannotBeTold: z.int(),
  expected: z.number().nullable().meta({ description: 'Mean, as a ratio.' }),
  came: z.number().nullable(),
});

export const scorebookJson = z
  .object({
    items: z.array(
      z.object({
        key: z.string(),
        changes: z.int(),
        rounds: z.int(),
        ...{ lifted: z.int(), dropped: z.int(), held: z.int(), unclear: z.int() },
        effect: range.extend({ measure, ratio: z.number() }).nullable(),
        spread: z.number().nullable().meta({ description: 'Standard deviation of true effects, in logs.' }),
        next: range.nullable().meta({ description: 'The range for the effect of the next one, as ratios.' }),
        sentence: z.string(),
      }),
    ),
    winners: z
      .array(
        z.object({
          ...{ changeId: z.int().nullable(), roundId: z.int().nullable(), title: z.string(), measure },
          ratio: z.number().meta({ description: 'Drawn toward its kind.' }),
          raw: z.number(),
          p: z.number(),
        }),
      )
      .meta({ description: 'All that was read, the best first.' }),
    expectedFalse: z.number().nullable().meta({
      description: 'Of those whose range excludes nothing, the share to be expected to be none.',
    }),
    marks: z.array(range.extend({ mark: z.enum(TITLE_CHANGE_MARKS), changes: z.int(), ratio: z.number() })),
    forecasts: z.object({
      person: z.array(forecast),
      kind: z.array(forecast),
      openings: z
        .object({ openings: z.int(), estimated: z.number(), came: z.number(), within: z.int() })
        .nullable()
        .meta({ description: 'Clicks a month.' }),
    }),
  })
  .meta({ id: 'Scorebook' });

const asRatio = (log: number | null) => (log === null ? null : Math.exp(log));
const forecastToJson = ({ key, forecasts, met, notMet, cannotBeTold, expected, came }: ForecastScore) => ({
  ...{ key, forecasts, met, notMet, cannotBeTold, expected: asRatio(expected), came: asRatio(came) },
});

export function scorebookToJson(book: Scorebook): z.infer<typeof scorebookJson> {
  return {
    items: book.lines.map((line) => {
      const { key, name, changes, rounds, lifted, dropped, held, unclear, pooled } = line;
      return {
        ...{ key, changes, rounds, lifted, dropped, held, unclear, sentence: lineSentence(name, line) },
        effect: pooled && {
          ...{ measure: pooled.measure, ratio: Math.exp(pooled.net) },
          ...{ low: Math.exp(pooled.low), high: Math.exp(pooled.high) },
        },
        spread: pooled && pooled.spread,
        next: pooled?.next ? { low: Math.exp(pooled.next.low), high: Math.exp(pooled.next.high) } : null,
      };
    }),
    winners: book.ranked.map(({ scored, measure: by, shrunken, raw, p }) => ({
      ...{ changeId: scored.changeId, roundId: scored.roundId, title: scored.title, measure: by },
      ...{ ratio: Math.exp(shrunken), raw: Math.exp(raw), p },
    })),
    expectedFalse: book.expectedFalse,
    marks: book.marks.map(({ mark, changes, net, low, high }) => ({
      ...{ mark, changes, ratio: Math.exp(net), low: Math.exp(low), high: Math.exp(high) },
    })),
    forecasts: {
      person: book.forecasts.person.map(forecastToJson),
      kind: book.forecasts.kind.map(forecastToJson),
      openings: book.openings && {
        ...{ openings: book.openings.openings, estimated: book.openings.estimated },
        ...{ came: book.openings.came, within: book.openings.within },
      },
    },
  };
}
