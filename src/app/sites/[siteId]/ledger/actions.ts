'use server';

import { z } from 'zod';
import { action, question } from '@/app/action';
import { refuseConflict } from '@/app/formResult';
import { parseIsoDay } from '@/core/calendar/day';
import { changeEditSchema, MAX_PAGES_A_CHANGE, newChangeSchema, type NewChange } from '@/core/model/change';
import { changeInputOf } from '@/core/changes/changeInput';
import { newDecisionSchema, newStepSchema } from '@/core/model/steps';
import { ask } from '@/app/ask';
import { joinInWorker } from '@/jobs/inWorker';
import { movedPages } from '@/services/pages/movedPages';
import { overlapWarnings, thoughtOf } from '@/services/ledger/overlaps';
import { SiteContext } from '@/services/site/siteContext';
import { restoreChange } from '@/store/ledger/changeHistory';
import { addChange, editChange, recordDecision, recordStep, setChangeDeleted } from '@/store/ledger/changes';
import { findChange } from '@/store/ledger/findChanges';

/** Logs a change. Gives its id. */
export const logChange = action(
  { on: 'site', may: 'log', auditAction: 'logged a change' },
  [newChangeSchema],
  async ({ db, site }, input) => (await addChange(db, site, input)).id,
);

/** Edits those fields of a change that are given, from what stood there when the edit began. Gives its id. */
export const saveChange = action(
  { on: 'change', may: 'edit', auditAction: 'edited a change' },
  [changeEditSchema, z.record(z.string(), z.unknown())],
  async ({ db, site, change }, edit, base) => {
    // A schema fills in what was left out; only what was given is edited.
    const given = Object.fromEntries(Object.entries(edit).filter(([field]) => Object.hasOwn(base, field)));
    await editChange(db, site, change.id, given as Partial<NewChange>, () => {
      refuseConflict(given, base, changeInputOf(findChange(db, change.id)!));
    });
    return change.id;
  },
);

/** Records the day of a step of a change, or takes it back. */
export const recordChangeStep = action(
  { on: 'change', may: 'log', auditAction: 'recorded a step' },
  [newStepSchema.shape.step, newStepSchema.shape.day],
  async ({ db, change }, step, day) => {
    await recordStep(db, change.id, { step, day });
    return null;
  },
);

/** Records what was decided of a change, or takes it back. */
export const decide = action(
  { on: 'change', may: 'edit', auditAction: 'decided on a change' },
  [newDecisionSchema],
  async ({ db, change }, input) => {
    await recordDecision(db, change.id, input);
    return null;
  },
);

/** Deletes a change; it can be put back. */
export const deleteChange = action(
  { on: 'change', may: 'edit', auditAction: 'deleted a change' },
  [],
  async ({ db, change }) => {
    await setChangeDeleted(db, change.id, true);
    return null;
  },
);

/** Lets a change say again what it said before one of its edits. */
export const putBack = action(
  { on: 'change', may: 'edit', auditAction: 'put a change back' },
  [z.int().positive()],
  async ({ db, site, change }, entry) => {
    await restoreChange(db, site, change.id, entry);
    return null;
  },
);

/** What stands against logging a change on some pages and a day: others whose days are not over there. */
export const inTheWay = question(
  { on: 'site', may: 'read' },
  [z.int().positive().nullable(), z.array(z.string().max(2048)).max(MAX_PAGES_A_CHANGE), z.string().max(40)],
  ({ db, site }, changeId, pages, text) => {
    const day = parseIsoDay(text);
    return day === null ? [] : overlapWarnings(db, site, changeId, pages, day);
  },
);

/** Whether the pages of a change that is only thought of could show what is expected of it by its review. */
export const foresee = question(
  { on: 'site', may: 'read' },
  [newChangeSchema],
  async ({ db, site }, input) => {
    const thought = thoughtOf(db, site, input);
    return thought && ask('foresight', { siteId: site.id, thought });
  },
);

/** What changes of a kind have brought on the site, in a sentence; null where too few were read. */
export const broughtSoFar = question(
  { on: 'site', may: 'read' },
  [z.string().max(60)],
  async ({ site }, kind) => {
    const score = await ask('kindScore', { siteId: site.id, kind });
    return score?.sentence ?? null;
  },
);

/** Joins the old addresses of the pages that a change moved to the new ones. Gives a sentence of what came of it. */
export const joinMoved = action(
  { on: 'change', may: 'edit', auditAction: 'joined a moved page' },
  [],
  async ({ db, site, change }) => {
    let joined = 0;
    for (const { to, addressIds } of movedPages(new SiteContext(db, site), change)) {
      for (const id of addressIds) await joinInWorker(site.id, id, to);
      joined += addressIds.length;
    }
    return joined === 0 ? 'There was nothing to join.' : 'Joined: the figures of both are one page now.';
  },
);
