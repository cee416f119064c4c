import { spanLength, type Span } from '@/core/calendar/span';
import type { Led } from '@/core/history/led';
import { plural, spanText } from '@/core/words/format';
import { Part } from '../reading/HowTo';

type Props = { led: readonly Led[]; shown: Span; pathOf: (pageId: number) => string };

/** Which page led for a query on which days: a bar for each run of days. */
export function LedPart({ led, shown, pathOf }: Props) {
  const days = led.reduce((sum, one) => sum + one.days, 0);
  // With one page alone there is nothing to tell apart.
  if (led.length < 2) return null;
  const width = spanLength(shown);
  const turns = led.reduce((sum, { runs }) => sum + runs.length, 0) - 1;
  return (
    <Part
      title="Which page led"
      howTo="On each day the page that was seen most for the query leads. Where the lead goes to and fro, searchers and machines cannot tell which page is meant."
    >
      <p>
        {`${pathOf(led[0]!.pageId)} led on ${led[0]!.days} of ${plural(days, 'day')}; the lead changed ${plural(turns, 'time')}.`}
      </p>
      <ul className="mt-1.5 space-y-1">
        {led.slice(0, 5).map(({ pageId, days: own, runs }) => (
          <li key={pageId} className="grid grid-cols-[10rem_1fr_4.5rem] items-center gap-2 text-[0.85rem]">
            <span className="truncate" title={pathOf(pageId)}>
              {pathOf(pageId)}
            </span>
            <svg
              viewBox={`0 0 ${width} 10`}
              preserveAspectRatio="none"
              className="h-2.5 w-full"
              role="img"
              aria-label={runs
                .slice(-6)
                .map((run) => spanText(run))
                .join(', ')}
            >
              <line x1="0" x2={width} y1="9.5" y2="9.5" className="stroke-base-300" strokeWidth="1" />
              {runs.map((run) => (
                <rect
                  key={run.firstDay}
                  x={run.firstDay - shown.firstDay}
                  y="1"
                  width={spanLength(run)}
                  height="8"
                  className="fill-base-content"
                />
              ))}
            </svg>
            <span className="text-right tabular-nums">{plural(own, 'day')}</span>
          </li>
        ))}
      </ul>
      <p className="muted mt-0.5 text-[0.85rem]">{spanText(shown)}</p>
    </Part>
  );
}
