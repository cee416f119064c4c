import { AppLink } from '../kit/AppLink';
import type { Day } from '@/core/calendar/day';
import { kindsOf, type Difference } from '@/core/markup/differences';
import { datedSpan } from '@/core/words/format';

/** A snapshot as the list shows it. */
export type SnapshotLine = {
  readonly id: number;
  readonly day: Day;
  readonly lastDay: Day;
  readonly title: string | null;
  readonly differences: readonly Difference[] | null;
};

type Props = {
  snapshots: readonly SnapshotLine[];
  /** The address at which two of them are compared. */
  compare: (before: number, after: number) => string;
};

/** The snapshots of a page, the last first, each with what was new in it. */
export function SnapshotList({ snapshots, compare }: Props) {
  return (
    <ol className="space-y-1">
      {snapshots.map(({ id, day, lastDay, title, differences }, i) => {
        const before = snapshots[i + 1];
        const latest = snapshots[0]!;
        return (
          <li key={id} className="flex flex-wrap gap-x-4">
            <span className="w-52 shrink-0 tabular-nums">{datedSpan({ firstDay: day, lastDay })}</span>
            <span className="min-w-0 grow basis-60">
              {title ?? <span className="muted">no title</span>}
              {differences && differences.length > 0 && (
                <span className="muted text-[0.85rem]"> · new: {kindsOf(differences).toLowerCase()}</span>
              )}
            </span>
            <span className="flex gap-3 text-[0.85rem]">
              {before && (
                <AppLink href={compare(before.id, id)} scroll={false} className="inline-link">
                  against the one before
                </AppLink>
              )}
              {i > 1 && (
                <AppLink href={compare(id, latest.id)} scroll={false} className="inline-link">
                  against the last
                </AppLink>
              )}
            </span>
          </li>
        );
      })}
    </ol>
  );
}
