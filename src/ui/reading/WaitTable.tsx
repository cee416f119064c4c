import { MEASURE_NAMES } from '@/core/measures/registry';
import { worthWaiting } from '@/core/effect/power';
import type { Reading } from '@/core/reading/readingModel';
import { plural, share } from '@/core/words/format';
import { FiguresTable } from '../kit/table/FiguresTable';

/** How small an effect these pages could show in spans of each length, and which of them would show the expected one. */
export function WaitTable({ reading }: { reading: Reading }) {
  const { wait, spans } = reading;
  if (!wait) return null;
  const { showable, expectedRatio, daysNeeded } = wait;
  return (
    <>
      <p className="mb-1">{verdictOn(reading)}</p>
      <FiguresTable
        label="What these pages could show"
        className="tight dense"
        rows={[wait]}
        rowKey={({ metric }) => metric}
        columns={[
          {
            id: 'metric',
            name: 'spans of',
            cellClass: 'font-normal!',
            cell: ({ metric }) => `${MEASURE_NAMES[metric]} shows from`,
          },
          ...showable.map(({ windowDays, ratio }) => ({
            id: `${windowDays} days`,
            head: (
              <span className={windowDays === spans.windowDays ? 'text-base-content font-bold' : ''}>
                {windowDays} days
              </span>
            ),
            cellClass: expectedRatio !== null && ratio <= expectedRatio ? 'font-semibold' : 'muted',
            cell: () => (
              <>
                ±{share(ratio - 1)}
                {windowDays === daysNeeded && <span className="sr-only"> (enough for what is expected)</span>}
              </>
            ),
          })),
        ]}
      />
    </>
  );
}

function verdictOn({ wait, spans }: Reading): string {
  if (!wait) return '';
  const { expectedRatio, daysNeeded, showable } = wait;
  const { windowDays, ratio } = worthWaiting(showable);
  if (expectedRatio === null)
    return `${plural(windowDays, 'day')} can show an effect of ${share(ratio - 1)} or more. Longer spans show little more, and smaller effects are lost in the page's usual variation.`;
  const expected = `What is expected amounts to ${share(expectedRatio - 1)}`;
  if (daysNeeded === null)
    return `${expected}, which none of these spans would show: it cannot be told from the ordinary swing.`;
  return daysNeeded <= spans.windowDays
    ? `${expected}, and ${plural(daysNeeded, 'day')} would show it.`
    : `${expected}, and it takes ${plural(daysNeeded, 'day')} to show it; ${spans.windowDays} are too few.`;
}
