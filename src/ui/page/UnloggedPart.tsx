'use client';

import { AppLink } from '../kit/AppLink';
import { useRouter } from 'next/navigation';
import type { Day } from '@/core/calendar/day';
import { kindsOf, type Difference } from '@/core/markup/differences';
import { mediumDay } from '@/core/words/format';
import type { Act } from '../kit/attempt';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';
import { routes } from '../shell/routes';
import { Differences } from './Differences';
import { IfMay } from '../shell/May';

type Props = {
  siteId: number;
  snapshotId: number;
  from: Day;
  to: Day;
  differences: readonly Difference[];
  passOver: Act<[siteId: number, snapshotId: number, passedOver: boolean]>;
};

/** What was done to the page and nobody logged, offered as a change to log. */
export function UnloggedPart({ siteId, snapshotId, from, to, differences, passOver }: Props) {
  const router = useRouter();
  const say = useToast();
  const { busy, act } = useAct();
  const leave = () =>
    act(
      () => passOver(siteId, snapshotId, true),
      () => {
        say('It is not asked about again.', () =>
          act(
            () => passOver(siteId, snapshotId, false),
            () => router.refresh(),
          ),
        );
        router.refresh();
      },
    );
  return (
    <section aria-label="Done and not logged" className="mb-5 max-w-4xl border-l-3 border-(--band) pl-4">
      <p className="font-serif text-lg">
        Between {mediumDay(from)} and {mediumDay(to)} the page was worked on and nobody logged it:{' '}
        {kindsOf(differences).toLowerCase()}.
      </p>
      <IfMay right="edit">
        <div className="my-2 flex flex-wrap gap-3">
          <AppLink href={routes.changeFound(siteId, snapshotId)} className="btn btn-primary btn-sm">
            Log it
          </AppLink>
          <button type="button" className="btn btn-ghost btn-sm" disabled={busy} onClick={leave}>
            Nothing to log
          </button>
        </div>
      </IfMay>
      <Differences differences={differences} />
    </section>
  );
}
