import { z } from 'zod';
import { addressJson, dayJson, jsonFrom } from './json';
import { DRAWS, HALVES, PAGE_STEPS, pagesOf, ROUND_DECISIONS, type Round, type RoundPage } from './round';

const number = z.number().nullable();

const pageOfRound = jsonFrom(
  z.object({
    page: addressJson,
    pageId: z.int(),
    half: z.enum(HALVES),
    block: z.int().meta({ description: 'Pages drawn against each other have the same.' }),
    person: z.string().nullable(),
    oldText: z.string().nullable(),
    newText: z.string().nullable(),
    steps: z.object(Object.fromEntries(PAGE_STEPS.map((step) => [step, dayJson.nullable()]))),
    then: z
      .object({ clicks: z.number(), impressions: z.number(), position: number, appeal: number })
      .meta({ description: 'The 28 days before the round began.' }),
  }),
  (page: RoundPage) => ({
    ...page,
    pageId: page.page.id,
    steps: Object.fromEntries(PAGE_STEPS.map((step) => [step, page.steps[step] ?? null])),
    then: page.frozen,
  }),
);

/** A round as the API answers with it. */
export const roundJson = jsonFrom(
  z
    .object({
      id: z.int(),
      name: z.string(),
      kind: z.string(),
      day: dayJson,
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
          day: dayJson,
        })
        .nullable(),
      changes: z.object({ first: z.int().nullable(), second: z.int().nullable() }).meta({
        description: 'The changes that the halves were logged as.',
      }),
      pages: z.array(pageOfRound),
    })
    .meta({ id: 'Round' }),
  (round: Round) => ({
    ...round,
    first: pagesOf(round, 'first').map(({ page }) => page.address),
    second: pagesOf(round, 'second').map(({ page }) => page.address),
    changes: { first: round.changes.first ?? null, second: round.changes.second ?? null },
  }),
);
