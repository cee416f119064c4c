import type { CheckedPosition } from '@/core/history/subjectDays';
import { mediumDay, metricValue } from '@/core/words/format';

/** What the open squares on the position strip are, and what was seen last. */
export function CheckedLine({ checked }: { checked: readonly CheckedPosition[] }) {
  const last = checked.at(-1);
  if (!last) return null;
  const missed = checked.filter(({ position }) => position === null).length;
  return (
    <p className="muted mt-1 text-[0.85rem]">
      <span aria-hidden className="mr-1 inline-block size-1.5 border border-current align-middle" />
      positions that were checked ({checked.length}); the line is the mean position of the figures. Last
      checked on {mediumDay(last.day)}:{' '}
      {last.position === null ? 'not among the results' : metricValue('position', last.position)}
      {missed > 0 && `; not among the results on ${missed} of the days`}.
    </p>
  );
}
