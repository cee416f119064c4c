'use server';

import { z } from 'zod';
import { action } from '@/app/action';
import { refuseConflict } from '@/app/formResult';
import { Problem } from '@/app/problem';
import { readEvents } from '@/core/almanac/read';
import { eventInputOf, newEventSchema } from '@/core/model/event';
import {
  addEvent,
  addEvents,
  findStandingEvent,
  restoreEvent,
  saveEvent as storeEvent,
  setEventDeleted,
} from '@/store/ledger/events';

/** Notes an event. */
export const noteEvent = action(
  { on: 'site', may: 'log', auditAction: 'noted an event' },
  [newEventSchema],
  async ({ db, site }, input) => {
    await addEvent(db, site.id, input);
    return null;
  },
);

/** Edits an event: all that the form says, with what was changed in it and what stood there when the edit began. */
export const saveEvent = action(
  { on: 'event', may: 'edit', auditAction: 'edited an event' },
  [z.record(z.string(), z.unknown()), z.record(z.string(), z.unknown())],
  async ({ db, event }, edit, base) => {
    const merged = newEventSchema.parse({ ...eventInputOf(event), ...edit });
    await storeEvent(db, event.id, merged, () => {
      const now = eventInputOf(findStandingEvent(db, event.id)!);
      refuseConflict(edit, base, now);
    });
    return null;
  },
);

/** Larger files are no almanacs. */
const LONGEST_FILE = 1024 * 1024;

/** Reads a file of events, and notes those that are new. */
export const bringInEvents = action(
  { on: 'site', may: 'edit', auditAction: 'brought events in' },
  [z.string().max(LONGEST_FILE)],
  async ({ db, site }, text) => {
    const { events, problems } = readEvents(text);
    const added = await addEvents(db, site.id, events);
    return { added, known: events.length - added, problems };
  },
);

/** Deletes an event; it can be put back. */
export const deleteEvent = action(
  { on: 'event', may: 'edit', auditAction: 'deleted an event' },
  [],
  async ({ db, event }) => {
    await setEventDeleted(db, event.id, true);
    return null;
  },
);

/** Lets an event say again what it said before one of its edits. */
export const putEventBack = action(
  { on: 'event', may: 'edit', auditAction: 'put an event back' },
  [z.int().positive()],
  async ({ db, event }, entry) => {
    if (!(await restoreEvent(db, event.id, entry)))
      throw new Problem(404, 'There is no such entry in the history of the event.');
    return null;
  },
);
