'use server';

import { revalidatePath } from 'next/cache';
import { readEvents } from '@/core/almanac/read';
import { newEventSchema, type NewEventInput } from '@/core/model/event';
import { database } from '@/store/database';
import { findSite } from '@/store/sites';
import {
  addEvent,
  addEvents,
  findEvent,
  restoreEvent,
  saveEvent as storeEvent,
  setEventDeleted,
} from '@/store/ledger/events';
import { asFormResult, type FormResult } from '@/app/formResult';

/** Notes an event, or edits one where `eventId` is given. */
export async function saveEvent(
  siteId: number,
  eventId: number | null,
  input: NewEventInput,
): Promise<FormResult<null>> {
  return asFormResult(async () => {
    const db = database();
    const event = newEventSchema.parse(input);
    if (eventId === null) await addEvent(db, siteId, event);
    else if (findEvent(db, eventId)?.siteId === siteId) await storeEvent(db, eventId, event);
    revalidatePath('/sites', 'layout');
    return null;
  });
}

/** Reads a file of events, and notes those that are new. */
export async function bringInEvents(
  siteId: number,
  text: string,
): Promise<FormResult<{ added: number; known: number; problems: string[] }>> {
  return asFormResult(async () => {
    const db = database();
    if (!findSite(db, siteId)) throw new Error(`There is no site ${siteId}.`);
    const { events, problems } = readEvents(text);
    const added = await addEvents(db, siteId, events);
    revalidatePath('/sites', 'layout');
    return { added, known: events.length - added, problems };
  });
}

/** Deletes an event, or brings a deleted one back. */
export async function deleteEvent(siteId: number, eventId: number, deleted: boolean): Promise<void> {
  const db = database();
  if (findEvent(db, eventId)?.siteId !== siteId) return;
  await setEventDeleted(db, eventId, deleted);
  revalidatePath('/sites', 'layout');
}

/** Lets an event say again what it said before one of its edits. */
export async function putEventBack(siteId: number, eventId: number, entry: number): Promise<void> {
  const db = database();
  if (findEvent(db, eventId)?.siteId !== siteId) return;
  await restoreEvent(db, eventId, entry);
  revalidatePath('/sites', 'layout');
}
