import { addDays, isoDay, type Day } from '../core/calendar/day';
import type { Site } from '../core/model/site';
import { dueNow, newRoutineSchema, READY_ROUTINES } from '../core/routines/routine';
import { today } from '../store/clock';
import type { Db } from '../store/database';
import { findRoutine, keepRoutine, tickStep } from '../store/routines/routines';

/** Since when the people of the made-up site keep to their routines, in days before the last day of figures. */
const KEPT_AGO = 240;

/** The routines that come ready, kept since spring and done when they were due last. */
export async function makeRoutines(db: Db, site: Site, lastDay: Day): Promise<void> {
  for (const ready of READY_ROUTINES) {
    const firstDay = isoDay(addDays(lastDay, -KEPT_AGO));
    const id = await keepRoutine(db, site.id, null, newRoutineSchema.parse({ ...ready, firstDay }));
    const routine = findRoutine(db, site.id, id)!;
    const due = dueNow(routine, [], today());
    // On the day itself, the way such a team does it.
    const at = due === null ? '' : `${isoDay(due)}T10:30:00.000Z`;
    for (let step = 0; due !== null && step < routine.steps.length; step++)
      await tickStep(db, site.id, id, { dueOn: due, step, person: step % 2 === 0 ? 'IK' : 'MO' }, true, at);
  }
}
