import type { Metadata } from 'next';
import { isoDay, parseIsoDay } from '@/core/calendar/day';
import { dueNext, dueNow, READY_ROUTINES } from '@/core/routines/routine';
import { mediumDay } from '@/core/words/format';
import { today } from '@/store/clock';
import { doneOf, listRoutines } from '@/store/routines/routines';
import { Screen } from '@/ui/kit/Screen';
import { RoutineForm } from '@/ui/routines/RoutineForm';
import { RoutinePart } from '@/ui/routines/RoutinePart';
import { siteFromPath, type SitePageProps } from '../site';
import { drop, keep, tick } from './actions';

export const metadata: Metadata = { title: 'Routines' };

/** What is done again and again on a site, step by step, so that a colleague can do it too. */
export default async function RoutinesPage({ params }: SitePageProps) {
  const { db, site } = await siteFromPath((await params).siteId);
  const now = today(site.timeZone);
  const routines = listRoutines(db, site.id);
  const names = new Set(routines.map(({ name }) => name));
  return (
    <Screen
      title="Routines"
      lead="What to look at, step by step, in your own words. A routine stands on the desk when it is due, and is ticked off with who and when."
    >
      <div className="grid max-w-6xl gap-x-10 gap-y-6 lg:grid-cols-2">
        {routines.map((routine) => {
          const done = doneOf(db, routine.id);
          const due = dueNow(routine, done, now);
          const next = dueNext(routine, now);
          const shownOn = due ?? done.at(-1)?.dueOn ?? null;
          return (
            <RoutinePart
              key={routine.id}
              siteId={site.id}
              routine={{ ...routine, firstDay: isoDay(routine.firstDay) }}
              about={[
                due !== null
                  ? `Due since ${mediumDay(due)}`
                  : shownOn !== null
                    ? `Done for ${mediumDay(shownOn)}`
                    : 'Not due yet',
                next === null ? 'comes no more' : `next on ${mediumDay(next)}`,
              ].join(', ')}
              dueOn={shownOn === null ? null : isoDay(shownOn)}
              done={done
                .filter(({ dueOn }) => dueOn === shownOn)
                .map(({ step, person, at }) => ({
                  step,
                  person,
                  on: mediumDay(parseIsoDay(at.slice(0, 10))!),
                }))}
              {...{ keep, drop, tick }}
            />
          );
        })}
      </div>
      <RoutineForm
        siteId={site.id}
        today={isoDay(now)}
        ready={READY_ROUTINES.filter(({ name }) => !names.has(name))}
        keep={keep}
      />
    </Screen>
  );
}
