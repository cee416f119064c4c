import { z } from 'zod';
import type { Day } from '../calendar/day';
import { takenOpeningSchema, type TakenOpening } from './takenOpening';
import { newChangeSchema, type Expectation, type PageRef } from './change';
import { isoDaySchema, lineText, optionalText } from './fields';
import { settlingDaysSchema, windowDaysSchema } from './site';

/** How the halves of a round come about: by lot, all at once, or chosen by hand. */
export const DRAWS = ['halves', 'all', 'by-hand'] as const;
export type Draw = (typeof DRAWS)[number];

export const HALVES = ['first', 'second'] as const;
export type Half = (typeof HALVES)[number];

/** What was decided once the first half was read. */
export const ROUND_DECISIONS = { 'go-on': 'Go on', stop: 'Stop here', rework: 'Rework' } as const;
export type RoundDecision = {
  readonly decision: keyof typeof ROUND_DECISIONS;
  readonly reason: string | null;
  readonly day: Day;
};

/** Steps that each page of a round comes to by itself. */
export const PAGE_STEPS = ['made', 'reindex-requested', 'crawled', 'seen-in-results'] as const;
export type PageStep = (typeof PAGE_STEPS)[number];

/** What was known of a page on the day on which its round began. */
export type Frozen = {
  /** The days that the figures are of; null where the site had none. */
  readonly firstDay: Day | null;
  readonly lastDay: Day | null;
  readonly clicks: number;
  readonly impressions: number;
  readonly position: number | null;
  readonly appeal: number | null;
  readonly title: string | null;
  readonly description: string | null;
  /** Its most seen searches. */
  readonly queries: readonly {
    readonly text: string;
    readonly clicks: number;
    readonly impressions: number;
    readonly position: number | null;
  }[];
};

/** A page of a round. */
export type RoundPage = {
  readonly page: PageRef;
  /** Its address as the round was given it. */
  readonly written: string;
  readonly half: Half;
  /** The pages drawn together have one number. */
  readonly block: number;
  readonly person: string | null;
  readonly oldText: string | null;
  readonly newText: string | null;
  readonly steps: Readonly<Partial<Record<PageStep, Day>>>;
  readonly frozen: Frozen;
  readonly opening: TakenOpening | null;
};

/** A dated batch of pages that were taken on together. */
export type Round = {
  readonly id: number;
  readonly siteId: number;
  readonly name: string;
  readonly kind: string;
  /** The day on which it began. */
  readonly day: Day;
  readonly draw: Draw;
  readonly seed: number;
  readonly windowDays: number;
  readonly settlingDays: number;
  readonly expectation: Expectation | null;
  readonly person: string | null;
  /** The round that this one repeats or goes on from. */
  readonly followsId: number | null;
  readonly decision: RoundDecision | null;
  /** The changes that its halves were logged as. */
  readonly changes: Readonly<Partial<Record<Half, number>>>;
  readonly pages: readonly RoundPage[];
};

export const MOST_ROUND_PAGES = 200;
const MOST_SEED = 2 ** 31 - 1;

const pagesSchema = z
  .array(z.string().trim().min(1, 'The address is empty.').max(2048))
  .min(1, 'Name at least one page.')
  .max(MOST_ROUND_PAGES, `At most ${MOST_ROUND_PAGES} pages.`)
  .meta({ description: 'Addresses of the site; a path alone is taken as relative to it.' });

/** What a plan is asked with. */
export const roundPlanSchema = z.strictObject({
  pages: pagesSchema,
  kind: newChangeSchema.shape.kind,
  effect: z
    .number()
    .gt(0, 'An effect is a share above 0.')
    .max(10, 'An effect is at most ten times as much.')
    .nullish()
    .transform((n) => n ?? null)
    .meta({ description: 'A further effect to plan for, as a share (0.12: 12% more).' }),
  windowDays: windowDaysSchema.nullish().transform((n) => n ?? null),
});

export const newRoundSchema = z
  .strictObject({
    name: lineText().min(1, 'The round needs a name.').max(120, 'At most 120 characters.'),
    kind: newChangeSchema.shape.kind,
    pages: pagesSchema,
    draw: z.enum(DRAWS),
    /** With halves chosen by hand: the pages that go first. */
    first: z
      .array(z.string().trim().min(1).max(2048))
      .max(MOST_ROUND_PAGES)
      .nullish()
      .transform((list) => list ?? [])
      .meta({ description: 'The pages that go first, where halves are chosen by hand.' }),
    seed: z
      .int()
      .min(1)
      .max(MOST_SEED)
      .nullish()
      .transform((n) => n ?? null)
      .meta({ description: 'Makes the draw repeatable; one is chosen and kept where none is given.' }),
    expectation: newChangeSchema.shape.expectation,
    windowDays: windowDaysSchema.nullish().transform((n) => n ?? null),
    settlingDays: settlingDaysSchema.nullish().transform((n) => n ?? null),
    person: optionalText(60),
    followsId: z
      .int()
      .positive()
      .nullish()
      .transform((id) => id ?? null)
      .meta({ description: 'The round that this one repeats or goes on from.' }),
    openings: z
      .record(z.string().max(2048), takenOpeningSchema)
      .nullish()
      .transform((all) => all ?? {})
      .meta({ description: 'By page, the opening that it was taken on for.' }),
  })
  .refine(({ draw, first }) => draw === 'by-hand' || first.length === 0, {
    path: ['first'],
    message: 'Pages that go first are named only where halves are chosen by hand.',
  });
export type NewRound = z.output<typeof newRoundSchema>;

/** That the pages of a half were made on a day: all of them, or some by their numbers. */
export const madeSchema = z.strictObject({
  half: z.enum(HALVES),
  day: isoDaySchema,
  pageIds: z
    .array(z.int().positive())
    .max(MOST_ROUND_PAGES)
    .nullish()
    .transform((ids) => ids ?? null)
    .meta({ description: 'Only these of its pages; absent: all of the half.' }),
});

/** A step of some pages, or none of it any more. */
export const pageStepSchema = z.strictObject({
  pageIds: z.array(z.int().positive()).min(1).max(MOST_ROUND_PAGES),
  step: z.enum(PAGE_STEPS.filter((step) => step !== 'made') as [Exclude<PageStep, 'made'>]),
  day: isoDaySchema.nullable(),
});

/** New texts and persons of some pages. */
export const roundTextsSchema = z
  .array(
    z.strictObject({
      pageId: z.int().positive(),
      newText: optionalText(1000),
      /** Absent: as it was. */
      person: z.string().trim().max(60, 'At most 60 characters.').optional(),
    }),
  )
  .min(1)
  .max(MOST_ROUND_PAGES);

export const roundDecisionSchema = z.strictObject({
  decision: z.enum(Object.keys(ROUND_DECISIONS) as [keyof typeof ROUND_DECISIONS]).nullable(),
  reason: optionalText(2000),
  day: isoDaySchema,
});
export type NewRoundDecision = z.output<typeof roundDecisionSchema>;

/** The pages of a half. */
export const pagesOf = ({ pages }: Pick<Round, 'pages'>, half: Half): RoundPage[] =>
  pages.filter((one) => one.half === half);
