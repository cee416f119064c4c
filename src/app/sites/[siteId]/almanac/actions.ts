'use server';

import { revalidatePath } from 'next/cache';
import { newEventSchema, type NewEventInput } from '@/core/model/event';
import { database } from '@/store/database';
import { addEvent, findEvent, saveEvent as storeEvent, setEventDeleted } from '@/store/events';
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

/** Deletes an event, or brings a deleted one back. */
export async function deleteEvent(siteId: number, eventId: number, deleted: boolean): Promise<void> {
  const db = database();
  if (findEvent(db, eventId)?.siteId !== siteId) return;
  await setEventDeleted(db, eventId, deleted);
  revalidatePath('/sites', 'layout');
}
