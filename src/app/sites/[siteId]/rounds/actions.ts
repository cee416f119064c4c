'use server';

import { z } from 'zod';
import { foundOr404 } from '@/app/problem';
import { action } from '@/app/action';
import {
  madeSchema,
  MOST_ROUND_PAGES,
  newRoundSchema,
  pageStepSchema,
  roundDecisionSchema,
  roundTextsSchema,
} from '@/core/model/round';
import { ask } from '@/app/ask';
import { beginRound, pagesNamed } from '@/services/rounds/begin';
import {
  decideRound,
  keepTexts,
  recordMade,
  recordPageStep,
  takeBackMade,
} from '@/services/rounds/recordWork';
import { setRoundDeleted } from '@/store/rounds/rounds';

/** Begins a round and gives its number. */
export const begin = action(
  { on: 'site', may: 'edit', auditAction: 'began a round' },
  [newRoundSchema],
  async ({ db, site }, given) => {
    const pages = pagesNamed(db, site, given.pages).map(({ page }) => page);
    const candidates = await ask('roundCandidates', { siteId: site.id, pages });
    return beginRound(db, site, given, candidates ?? []);
  },
);

/** Says that pages of a half were made. */
export const made = action(
  { on: 'round', may: 'edit', auditAction: 'recorded pages of a round as made' },
  [madeSchema],
  async ({ db, site, round }, given) => {
    await recordMade(db, site, round.id, given);
    return null;
  },
);

/** Takes back that pages were made. */
export const notMade = action(
  { on: 'round', may: 'edit', auditAction: 'took back that pages were made' },
  [z.array(z.int().positive()).min(1).max(MOST_ROUND_PAGES)],
  async ({ db, site, round }, pageIds) => {
    await takeBackMade(db, site, round.id, pageIds);
    return null;
  },
);

/** Records a step of pages, or takes it back. */
export const step = action(
  { on: 'round', may: 'edit', auditAction: 'recorded a step of a round' },
  [pageStepSchema],
  async ({ db, round }, given) => {
    await recordPageStep(db, round.id, given);
    return null;
  },
);

/** Keeps new texts and who is at work on pages. */
export const keepWork = action(
  { on: 'round', may: 'edit', auditAction: 'wrote texts of a round' },
  [roundTextsSchema],
  async ({ db, site, round }, texts) => {
    await keepTexts(db, site, round.id, texts);
    return null;
  },
);

/** Records what was decided of a round, or takes it back. */
export const decide = action(
  { on: 'round', may: 'edit', auditAction: 'decided on a round' },
  [roundDecisionSchema],
  async ({ db, round }, decision) => {
    await decideRound(db, round.id, decision);
    return null;
  },
);

/** Deletes a round; what was logged of it stays. */
export const drop = action(
  { on: 'round', may: 'edit', auditAction: 'deleted a round' },
  [],
  async ({ db, round }) => {
    await setRoundDeleted(db, round.id, true);
    return null;
  },
);

/** Puts a round back. */
export const putBack = action(
  { on: 'site', may: 'edit', auditAction: 'put a round back' },
  [z.int().positive()],
  async ({ db, site }, id) => {
    return foundOr404(await setRoundDeleted(db, id, false, () => undefined, site.id), 'experiment');
  },
);
