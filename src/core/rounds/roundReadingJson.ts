import { z } from 'zod';
import type { LogEffect } from '../effect/effect';
import type { RoundMeasure } from '../measures/registry';
import { boundJson, addressJson, dayJson, jsonFrom, ratioJson, spanJson } from '../model/json';
import { HALVES } from '../model/round';
import { plainSentence } from '../reading/readingSentence';
import type { RoundEffect } from './effect';
import type { RoundEffects, TurnReading } from './reading';
import { turnSentence } from './roundSentence';

const MEASURE_KEYS = ['appeal', 'clicks', 'showings', 'position'] as const;
const keyOf = (measure: RoundMeasure): (typeof MEASURE_KEYS)[number] =>
  measure === 'rank' ? 'position' : measure;

/** The measures of a round under the names that the API has for them. */
const byKey = <T>({ rank, ...others }: Readonly<Record<RoundMeasure, T>>) => ({ ...others, position: rank });

const effect = jsonFrom(
  z
    .object({
      ratio: ratioJson,
      low: boundJson.meta({ description: 'Null where no draw says more.' }),
      high: boundJson,
      p: z.number().meta({
        description: 'How often chance brings as much: the draw, and what the control is known to miss.',
      }),
    })
    .nullable()
    .meta({ id: 'RoundEffect' }),
  (one: RoundEffect | null) => one && { ...one, ratio: one.net },
);

const effects = jsonFrom(
  z.object({
    appeal: effect,
    clicks: effect,
    showings: effect,
    position: effect.meta({
      description: 'Search by search; below 1 the number falls, which is a better rank.',
    }),
  }),
  (found: RoundEffects) => byKey(found),
);

const pageEffect = jsonFrom(
  z.object({ ratio: ratioJson, low: ratioJson, high: ratioJson, mark: z.string() }),
  (one: LogEffect & { readonly mark: string }) => ({ ...one, ratio: one.net }),
).nullable();

type Turn = { readonly kind: string; readonly turn: TurnReading };

const turnFields = z.object({
  pages: z.int().meta({ description: 'How many are compared.' }),
  before: spanJson,
  after: spanJson,
  read: spanJson.nullable(),
  complete: z.boolean(),
  completeOn: dayJson.nullable(),
  effects,
  alone: effects.nullable().meta({
    description: 'The same by the draw alone, without the untouched pages of the site; null without halves.',
  }),
  waiting: z.number().nullable().meta({
    description:
      'How much the half that waits counts in the control, from 0 to 1, for what the verdict goes by; the untouched pages of the site are the rest.',
  }),
  verdict: z.enum(['lifted', 'dropped', 'held', 'unclear', 'waiting']),
  movedIn: z.enum(MEASURE_KEYS).nullable(),
  early: z.object({ called: z.enum(['lifted', 'dropped']), since: dayJson }).nullable(),
  sentence: z.string(),
  byPage: z.array(
    z.object({
      page: addressJson,
      half: z.enum(HALVES),
      changed: z.boolean(),
      effects: jsonFrom(
        z.object({ appeal: pageEffect, clicks: pageEffect, showings: pageEffect, position: pageEffect }),
        (found: TurnReading['pages'][number]['effects']) => byKey(found),
      ),
    }),
  ),
  leftOut: z.array(z.object({ page: addressJson, reason: z.string() })),
  doubts: z.array(z.string()),
});

const fieldsOf = ({ kind, turn }: Turn) => ({
  ...turn,
  pages: turn.pages.length,
  waiting: turn.effects[turn.judged]?.waiting ?? null,
  movedIn: turn.movedIn && keyOf(turn.movedIn),
  early: turn.early && { called: turn.early.called, since: turn.early.day },
  sentence: plainSentence(turnSentence(kind, turn)),
  byPage: turn.pages,
});

const turnJson = jsonFrom(turnFields, fieldsOf);

/** The reading of a round as the API answers with it: its first half's turn, with the second's inside. */
export const roundReadingJson = jsonFrom(
  turnFields
    .extend({ second: turnJson.nullable().meta({ description: 'The second half’s turn.' }) })
    .meta({ id: 'RoundReading' }),
  ({ kind, first, second }: RoundTurns) => ({
    ...fieldsOf({ kind, turn: first }),
    second: second && { kind, turn: second },
  }),
);

type RoundTurns = {
  readonly kind: string;
  readonly first: TurnReading;
  readonly second: TurnReading | null;
};
