import { z } from 'zod';
import { GONE } from '../../core/archive/numbering';
import { addressRulesSchema } from '../../core/address/rules';
import { intakeSettingsSchema } from '../../core/intake/settings';
import { expectationSchema } from '../../core/model/change';
import { logoSchema, reportScopeSchema, reportWordsSchema } from '../../core/model/report';
import { takenOpeningSchema } from '../../core/openings/taken';
import { REPORT_PART_KEYS, LEFT_OUT } from '../../core/report/model';
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
    status: z.number(),
    title: text,
    description: text,
    headings: z.array(z.looseObject({ level: z.number(), text: z.string() })),
    structuredData: z.array(z.looseObject({ types: z.array(z.string()) })),
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
    title: z.string(),
    kind: z.string(),
    day: z.int(),
    pages: z.array(pageRef),
    queries: z.array(z.string()),
    tags: z.array(z.string()),
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
    logo: logoSchema.nullable(),
    content: z.looseObject({ title: z.string(), site: z.string(), parts: z.array(z.looseObject({})) }),
  }),
  steps: newRoutineSchema.shape.steps,
} as const;
export type Shape = keyof typeof SHAPES;
