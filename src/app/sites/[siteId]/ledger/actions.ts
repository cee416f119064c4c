'use server';

import { revalidatePath } from 'next/cache';
import type { z } from 'zod';
import { parseIsoDay } from '@/core/calendar/day';
import {
  changeEditSchema,
  MAX_PAGES_A_CHANGE,
  newChangeSchema,
  type NewChangeInput,
} from '@/core/model/change';
import { newDecisionSchema, newStepSchema, type NewStep } from '@/core/model/steps';
import { ask } from '@/jobs/questions/ask';
import {
  addChange,
  editChange,
  findChange,
  recordDecision,
  recordStep,
  restoreChange,
  setChangeDeleted,
} from '@/store/ledger/changes';
import { database } from '@/store/database';
import { joinInWorker } from '@/jobs/runner';
import { movedPages } from '@/services/movedPages';
import { SiteContext } from '@/services/siteContext';
import { overlapWarnings, thoughtOf } from '@/services/overlaps';
import { findSite } from '@/store/sites';
import { asFormResult, type FormResult } from '@/app/formResult';

/** Logs a change, or edits one where `changeId` is given. Gives the id of the change. */
export async function saveChange(
  siteId: number,
  changeId: number | null,
  input: NewChangeInput,
): Promise<FormResult<number>> {
  return asFormResult(async () => {
    const db = database();
    const site = findSite(db, siteId);
    if (!site) throw new Error(`There is no site ${siteId}.`);
    if (changeId === null) {
      const change = await addChange(db, site, newChangeSchema.parse(input));
      revalidatePath('/sites', 'layout');
      return change.id;
    }
    if (findChange(db, changeId)?.siteId !== siteId) throw new Error(`There is no change ${changeId}.`);
    await editChange(db, site, changeId, changeEditSchema.parse(input));
    revalidatePath('/sites', 'layout');
    return changeId;
  });
}

/** Records the day of a step of a change, or takes it back. */
export async function recordChangeStep(
  siteId: number,
  changeId: number,
  step: NewStep['step'],
  day: string | null,
): Promise<FormResult<null>> {
  return asFormResult(async () => {
    const db = database();
    if (findChange(db, changeId)?.siteId !== siteId) throw new Error(`There is no change ${changeId}.`);
    await recordStep(db, changeId, newStepSchema.parse({ step, day }));
    revalidatePath('/sites', 'layout');
    return null;
  });
}

/** Records what was decided of a change, or takes it back. */
export async function decide(
  siteId: number,
  changeId: number,
  input: z.input<typeof newDecisionSchema>,
): Promise<FormResult<null>> {
  return asFormResult(async () => {
    const db = database();
    if (findChange(db, changeId)?.siteId !== siteId) throw new Error(`There is no change ${changeId}.`);
    await recordDecision(db, changeId, newDecisionSchema.parse(input));
    revalidatePath('/sites', 'layout');
    return null;
  });
}

/** Deletes a change, or brings a deleted one back. */
export async function deleteChange(siteId: number, changeId: number, deleted: boolean): Promise<void> {
  const db = database();
  if (findChange(db, changeId, true)?.siteId !== siteId) return;
  await setChangeDeleted(db, changeId, deleted);
  revalidatePath('/sites', 'layout');
}

/** Lets a change say again what it said before one of its edits. */
export async function putBack(siteId: number, changeId: number, entry: number): Promise<void> {
  const db = database();
  const site = findSite(db, siteId);
  if (!site || findChange(db, changeId)?.siteId !== siteId) return;
  await restoreChange(db, site, changeId, entry);
  revalidatePath('/sites', 'layout');
}

/** What stands against logging a change on some pages and a day: others whose days are not over there. */
export async function inTheWay(
  siteId: number,
  changeId: number | null,
  pages: string[],
  day: string,
): Promise<string[]> {
  const db = database();
  const site = findSite(db, siteId);
  const on = parseIsoDay(day);
  if (!site || on === null || pages.length > MAX_PAGES_A_CHANGE) return [];
  return overlapWarnings(db, site, changeId, pages, on);
}

/** Whether the pages of a change that is only thought of could show what is expected of it by its review. */
export async function foresee(siteId: number, input: NewChangeInput): Promise<string | null> {
  const db = database();
  const site = findSite(db, siteId);
  const checked = newChangeSchema.safeParse(input);
  if (!site || !checked.success) return null;
  const thought = thoughtOf(db, site, checked.data);
  return thought && ask('foresight', { siteId, thought });
}

/** Joins the old addresses of the pages that a change moved to the new ones. Gives a sentence of what came of it. */
export async function joinMoved(siteId: number, changeId: number): Promise<string> {
  const db = database();
  const site = findSite(db, siteId);
  const change = findChange(db, changeId);
  if (!site || change?.siteId !== siteId) return 'There is no such change any more.';
  let joined = 0;
  for (const { to, addressIds } of movedPages(new SiteContext(db, site), change)) {
    for (const id of addressIds) await joinInWorker(siteId, id, to);
    joined += addressIds.length;
  }
  revalidatePath('/sites', 'layout');
  return joined === 0 ? 'There was nothing to join.' : 'Joined: the figures of both are one page now.';
}
