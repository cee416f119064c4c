import { z } from 'zod';
import { isoDay } from '@/core/calendar/day';
import type { Span } from '@/core/calendar/span';
import type { LogEffect } from '@/core/effect/effect';
import { DRAWS, HALVES, pagesOf, PAGE_STEPS, ROUND_DECISIONS, type Round } from '@/core/model/round';
import { plainSentence } from '@/core/reading/readingSentence';
import { type RoundEffects, type TurnReading } from '@/core/rounds/reading';
import { ROUND_MEASURES } from '@/core/measures/registry';
import { turnSentence } from '@/core/rounds/roundSentence';
import type { RoundPlan } from '@/services/rounds/plan';
import type { RoundReading } from '@/services/rounds/read';
import { day, span } from './schemas';

/* Rounds: their plan, their halves, and what each turn brought. */

const number = z.number().nullable();
const both = z.object({ appeal: number, clicks: number });

export const planJson = z
  .object({
    pages: z.int().meta({ description: 'How many of the pages can contribute.' }),
    pagesPerHalf: z.array(
      z.object({
        effect: z.number(),
        appeal: z
          .int()
          .nullable()
          .meta({ description: 'Pages in each half that find it 80 times in a hundred.' }),
        clicks: z.int().nullable(),
        power: both.meta({ description: 'How often these very pages would find it, from 0 to 1.' }),
      }),
    ),
    smallestEffect: both.meta({ description: 'The smallest rise that these pages would show, as a share.' }),
    days: z.int(),
    longer: z.object({ days: z.int(), smallestEffect: both }),
    leftOut: z.array(z.object({ page: z.string(), reason: z.string() })),
  })
  .meta({ id: 'RoundPlan' });

export function planToJson(plan: RoundPlan): z.infer<typeof planJson> {
  const { pages, pagesPerHalf, smallestEffect, days, longer, leftOut } = plan;
  return {
    ...{ pages, smallestEffect, days, longer },
    pagesPerHalf: pagesPerHalf.map(({ effect, appeal, clicks, power }) => ({
      effect,
      appeal,
      clicks,
      power,
    })),
    leftOut: leftOut.map(({ page, reason }) => ({ page: page.address, reason })),
  };
}

const stepDays = z.object(Object.fromEntries(PAGE_STEPS.map((step) => [step, day.nullable()])));

export const roundJson = z
  .object({
    id: z.int(),
    name: z.string(),
    kind: z.string(),
    day,
    draw: z.enum(DRAWS),
    seed: z.int(),
    windowDays: z.int(),
    settlingDays: z.int(),
    person: z.string().nullable(),
    followsId: z.int().nullable(),
    first: z.array(z.string()).meta({ description: 'The pages that go first.' }),
    second: z.array(z.string()).meta({ description: 'The pages that wait.' }),
    decision: z
      .object({
        decision: z.enum(Object.keys(ROUND_DECISIONS) as [keyof typeof ROUND_DECISIONS]),
        reason: z.string().nullable(),
        day,
      })
      .nullable(),
    changes: z.object({ first: z.int().nullable(), second: z.int().nullable() }).meta({
      description: 'The changes that the halves were logged as.',
    }),
    pages: z.array(
      z.object({
        page: z.string(),
        pageId: z.int(),
        half: z.enum(HALVES),
        block: z.int().meta({ description: 'Pages drawn against each other have the same.' }),
        person: z.string().nullable(),
        oldText: z.string().nullable(),
        newText: z.string().nullable(),
        steps: stepDays,
        then: z
          .object({ clicks: z.number(), impressions: z.number(), position: number, appeal: number })
          .meta({ description: 'The 28 days before the round began.' }),
      }),
    ),
  })
  .meta({ id: 'Round' });

export function roundToJson(round: Round): z.infer<typeof roundJson> {
  const { id, name, kind, draw, seed, windowDays, settlingDays, person, followsId, decision, changes } =
    round;
  const addresses = (half: 'first' | 'second') => pagesOf(round, half).map(({ page }) => page.address);
  return {
    ...{ id, name, kind, day: isoDay(round.day), draw, seed, windowDays, settlingDays, person, followsId },
    ...{ first: addresses('first'), second: addresses('second') },
    decision: decision && {
      ...{ decision: decision.decision, reason: decision.reason, day: isoDay(decision.day) },
    },
    changes: { first: changes.first ?? null, second: changes.second ?? null },
    pages: round.pages.map(({ page, half, block, steps, frozen, person: who, oldText, newText }) => ({
      ...{ page: page.address, pageId: page.id, half, block },
      ...{ person: who, oldText, newText },
      steps: Object.fromEntries(
        PAGE_STEPS.map((step) => [step, steps[step] === undefined ? null : isoDay(steps[step])]),
      ),
      then: {
        ...{ clicks: frozen.clicks, impressions: frozen.impressions },
        ...{ position: frozen.position, appeal: frozen.appeal },
      },
    })),
  };
}

const effect = z
  .object({
    ratio: z.number(),
    low: number.meta({ description: 'Null where no draw says more.' }),
    high: number,
    p: z.number().meta({
      description: 'How often chance brings as much: the draw, and what the control is known to miss.',
    }),
  })
  .nullable()
  .meta({ id: 'RoundEffect' });
const effects = z.object({
  appeal: effect,
  clicks: effect,
  showings: effect,
  position: effect.meta({
    description: 'Search by search; below 1 the number falls, which is a better rank.',
  }),
});
const MEASURE_KEYS = ['appeal', 'clicks', 'showings', 'position'] as const;
const moved = z.enum(MEASURE_KEYS).nullable();

const turnJson = z.object({
  pages: z.int().meta({ description: 'How many are compared.' }),
  before: span,
  after: span,
  read: span.nullable(),
  complete: z.boolean(),
  completeOn: day.nullable(),
  effects,
  alone: effects.nullable().meta({
    description: 'The same by the draw alone, without the untouched pages of the site; null without halves.',
  }),
  waiting: number.meta({
    description:
      'How much the half that waits counts in the control, from 0 to 1, for what the verdict goes by; the untouched pages of the site are the rest.',
  }),
  verdict: z.enum(['lifted', 'dropped', 'held', 'unclear', 'waiting']),
  movedIn: moved,
  early: z.object({ called: z.enum(['lifted', 'dropped']), since: day }).nullable(),
  sentence: z.string(),
  byPage: z.array(
    z.object({
      page: z.string(),
      half: z.enum(HALVES),
      changed: z.boolean(),
      effects: z.object(
        Object.fromEntries(
          MEASURE_KEYS.map((key) => [
            key,
            z.object({ ratio: z.number(), low: z.number(), high: z.number(), mark: z.string() }).nullable(),
          ]),
        ),
      ),
    }),
  ),
  leftOut: z.array(z.object({ page: z.string(), reason: z.string() })),
  doubts: z.array(z.string()),
});
export const roundReadingJson = turnJson
  .extend({ second: turnJson.nullable().meta({ description: 'The second half’s turn.' }) })
  .meta({ id: 'RoundReading' });

const keyOf = (measure: (typeof ROUND_MEASURES)[number]) => (measure === 'rank' ? 'position' : measure);
const spanJson = ({ firstDay, lastDay }: Span) => ({ firstDay: isoDay(firstDay), lastDay: isoDay(lastDay) });
const finite = (log: number) => (Number.isFinite(log) ? Math.exp(log) : null);

function effectsToJson(found: RoundEffects): z.infer<typeof effects> {
  return Object.fromEntries(
    ROUND_MEASURES.map((measure) => {
      const one = found[measure];
      return [
        keyOf(measure),
        one && { ratio: Math.exp(one.net), low: finite(one.low), high: finite(one.high), p: one.p },
      ];
    }),
  ) as z.infer<typeof effects>;
}

const ratios = ({ net, low, high, mark }: LogEffect & { readonly mark: string }) => ({
  ...{ ratio: Math.exp(net), low: Math.exp(low), high: Math.exp(high), mark },
});

function turnToJson(kind: string, turn: TurnReading): z.infer<typeof turnJson> {
  return {
    pages: turn.pages.length,
    ...{ before: spanJson(turn.before), after: spanJson(turn.after), read: turn.read && spanJson(turn.read) },
    complete: turn.complete,
    completeOn: turn.completeOn === null ? null : isoDay(turn.completeOn),
    effects: effectsToJson(turn.effects),
    alone: turn.alone && effectsToJson(turn.alone),
    waiting: turn.effects[turn.judged]?.waiting ?? null,
    verdict: turn.verdict,
    movedIn: turn.movedIn && keyOf(turn.movedIn),
    early: turn.early && { called: turn.early.called, since: isoDay(turn.early.day) },
    sentence: plainSentence(turnSentence(kind, turn)),
    byPage: turn.pages.map(({ page, half, changed, effects: own }) => ({
      ...{ page: page.address, half, changed },
      effects: Object.fromEntries(
        ROUND_MEASURES.map((measure) => [keyOf(measure), own[measure] && ratios(own[measure])]),
      ),
    })),
    leftOut: turn.leftOut.map(({ page, reason }) => ({ page: page.address, reason })),
    doubts: [...turn.doubts],
  };
}

/** The reading of a round; before its first half was made there is nothing in it. */
export function roundReadingToJson(
  { kind }: Round,
  { first, second }: RoundReading,
): z.infer<typeof roundReadingJson> | null {
  return first && { ...turnToJson(kind, first), second: second && turnToJson(kind, second) };
}
