import { z } from 'zod';
import { perPlainField, PLAIN_JSON } from '../../core/model/changeFields';
import { GONE } from '../../core/archive/numbering';
import { addressRulesSchema } from '../../core/model/addressRules';
import { intakeSettingsSchema } from '../../core/intake/settings';
import { expectationSchema } from '../../core/model/change';
import { METRICS } from '../../core/measures/registry';
import { DECISIONS, STEPS } from '../../core/model/steps';
import { logoSchema, newReportSchema, reportScopeSchema, reportWordsSchema } from '../../core/model/report';
import { takenOpeningSchema } from '../../core/model/takenOpening';
import { REPORT_PART_KEYS, LEFT_OUT } from '../../core/model/reportContent';
import { newRoutineSchema } from '../../core/routines/routine';
import { resultSchema } from '../../core/wording/resultPage';

/*
 * What stands as JSON within a row of an archive, as far as the program relies on it. An archive may come from anywhere: what does
 * not have its shape is refused, and with it the archive.
 */

const number = z.number().nullable();
const text = z.string().nullable();
const numbers = z.array(z.int().nonnegative());
const pageRef = z.looseObject({ id: z.int(), address: z.string() });

const frozenSchema = z.looseObject({
  ...{ firstDay: number, lastDay: number, clicks: z.number(), impressions: z.number() },
  ...{ position: number, appeal: number, title: text, description: text },
  queries: z.array(
    z.looseObject({ text: z.string(), clicks: z.number(), impressions: z.number(), position: number }),
  ),
});

/** A report may be about what is gone since. */
const scopeSchema = z.preprocess((scope) => {
  const { roundId, changeIds } = (scope ?? {}) as { roundId?: unknown; changeIds?: unknown };
  const there = (id: unknown) => (id === GONE ? 1 : id);
  return {
    ...(scope as object),
    ...(roundId !== undefined && { roundId: there(roundId) }),
    ...(Array.isArray(changeIds) && { changeIds: changeIds.map(there) }),
  };
}, reportScopeSchema);

const stepDays = z.partialRecord(z.enum(STEPS), number);

const span = z.looseObject({ firstDay: z.int(), lastDay: z.int() });
const reportPart = z.looseObject({
  key: z.enum(REPORT_PART_KEYS as [string, ...string[]]),
  ...{ heading: z.string(), sentences: z.array(z.string()) },
  tables: z.array(
    z.looseObject({
      ...{ title: z.string(), columns: z.array(z.looseObject({ name: z.string() })) },
      rows: z.array(z.array(z.looseObject({ text: z.string() }))),
    }),
  ),
  strips: z
    .looseObject({
      ...{ title: z.string(), shown: span },
      strips: z.array(z.looseObject({ metric: z.enum(METRICS), values: z.array(number) })),
      changes: z.array(z.looseObject({ day: z.int(), title: z.string() })),
      events: z.array(span.extend({ name: z.string() })),
    })
    .nullable(),
});

const historyOf = (shape: Record<string, z.ZodType>) =>
  z.looseObject({ id: z.int(), siteId: z.int(), ...shape });

export const SHAPES = {
  rules: addressRulesSchema,
  intake: intakeSettingsSchema,
  cells: z.array(z.string()),
  numbers,
  expectation: expectationSchema,
  opening: takenOpeningSchema,
  frozen: frozenSchema,
  evidence: z.looseObject({
    ...{ status: z.number(), finalAddress: z.string(), title: text, description: text, canonical: text },
    ...{ robots: z.array(z.string()), encoding: z.string(), text: z.string() },
    ...{ words: z.number(), images: z.number(), misfits: z.number() },
    headings: z.array(z.looseObject({ level: z.number(), text: z.string() })),
    structuredData: z.array(z.looseObject({ types: z.array(z.string()), problem: text })),
    links: z.array(z.string()),
    imagesWithoutAlt: z.array(z.string()),
  }),
  differences: z.array(z.looseObject({ aspect: z.string(), kind: z.string(), before: text, after: text })),
  sheetLines: z.array(
    z.looseObject({ page: z.string(), query: z.string(), clicks: z.number(), impressions: z.number() }),
  ),
  results: z.looseObject({ results: z.array(resultSchema) }),
  rival: z.looseObject({
    ...{ h1: z.array(z.string()), headings: z.number(), words: z.number(), types: z.array(z.string()) },
  }),
  pastChange: historyOf({
    // What was written before a field was there lacks it.
    ...perPlainField((name) => PLAIN_JSON[name].optional()),
    ...{ title: z.string(), kind: z.string(), day: z.int() },
    ...{ pages: z.array(pageRef), queries: z.array(z.string()), tags: z.array(z.string()) },
    parts: z.array(
      z.looseObject({ kind: z.string(), page: pageRef.nullable(), oldText: text, newText: text }),
    ),
    steps: stepDays,
    recorded: stepDays.optional(),
    expectation: z
      .looseObject({
        metric: z.enum(METRICS),
        direction: z.enum(['up', 'down']),
        amount: number,
        reviewDay: number,
      })
      .nullable(),
    decision: z
      .looseObject({ decision: z.enum(Object.keys(DECISIONS) as [string, ...string[]]), reason: text })
      .nullable(),
  }),
  pastEvent: historyOf({ name: z.string(), kind: z.string(), firstDay: z.int(), lastDay: z.int() }),
  pastRound: historyOf({
    name: z.string(),
    kind: z.string(),
    pages: z.array(z.looseObject({ page: pageRef, half: z.string(), frozen: frozenSchema })),
  }),
  scope: scopeSchema,
  parts: z.array(z.enum(REPORT_PART_KEYS as [string, ...string[]])),
  leaveOut: z.array(z.enum(Object.keys(LEFT_OUT) as [string, ...string[]])),
  words: reportWordsSchema,
  issue: z.looseObject({
    ...{ words: reportWordsSchema, ink: newReportSchema.shape.ink, logo: logoSchema.nullable() },
    ...{ issue: z.looseObject({ number: z.int(), day: z.int() }).nullable(), changed: z.array(z.string()) },
    content: z.looseObject({
      ...{ title: z.string(), site: z.string(), address: z.string(), about: z.string(), span },
      ...{ readOn: z.int(), figuresTo: number, parts: z.array(reportPart) },
    }),
  }),
  steps: newRoutineSchema.shape.steps,
} as const;
export type Shape = keyof typeof SHAPES;
