import type { Mark } from '@/core/effect/verdict';
import { VERDICT_INK } from '../kit/VerdictMark';

/** An interval on the log scale with its estimate, up is better. */
export type LogRange = { readonly net: number; readonly low: number; readonly high: number };

const WIDTH = 100;
const HEIGHT = 14;

/**
 * An interval drawn to the scale of its table, from -`most` to +`most` on the log scale: the upright is no effect, the
 * shade about level. Solid where it excludes no effect or holds level, hollow where it could be either.
 */
export function RangeBar({
  range,
  most,
  level,
  mark,
}: {
  range: LogRange;
  most: number;
  level: number;
  mark: Mark;
}) {
  const x = (log: number) => Math.max(1, Math.min(WIDTH - 1, ((log + most) / (2 * most)) * WIDTH));
  const beyond = (log: number) => Math.abs(log) > most;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      width={WIDTH}
      height={HEIGHT}
      aria-hidden
      className={`inline-block max-w-none align-middle ${mark === 'unclear' ? 'text-base-content' : VERDICT_INK[mark]}`}
    >
      <rect
        x={x(-level)}
        width={x(level) - x(-level)}
        y="0"
        height={HEIGHT}
        fill="var(--hairline)"
        opacity="0.45"
      />
      <line x1={x(0)} x2={x(0)} y1="0" y2={HEIGHT} stroke="var(--muted)" strokeWidth="1" />
      <line
        x1={x(range.low)}
        x2={x(range.high)}
        y1={HEIGHT / 2}
        y2={HEIGHT / 2}
        stroke="currentColor"
        strokeWidth={mark === 'unclear' ? 1.2 : 2.4}
        strokeDasharray={mark === 'unclear' ? '3 2' : undefined}
      />
      {/* An end beyond the scale has an arrow instead of stopping there. */}
      {beyond(range.low) && <path d={`M5 3 1 7l4 4`} fill="none" stroke="currentColor" strokeWidth="1.2" />}
      {beyond(range.high) && (
        <path d={`M${WIDTH - 5} 3 ${WIDTH - 1} 7l-4 4`} fill="none" stroke="currentColor" strokeWidth="1.2" />
      )}
      <circle
        cx={x(range.net)}
        cy={HEIGHT / 2}
        r="3.6"
        fill={mark === 'unclear' ? 'var(--color-base-100)' : 'currentColor'}
        stroke="currentColor"
        strokeWidth="1.2"
      />
    </svg>
  );
}
