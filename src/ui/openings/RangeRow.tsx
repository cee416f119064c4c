import { count } from '@/core/words/format';
import type { Gain } from '@/core/openings/opening';

const [WIDTH, HEIGHT] = [116, 10];

/** A dot with its range from a zero line on, drawn to the scale of the largest. */
export function RangeRow({ gain, most }: { gain: Gain; most: number }) {
  const x = (clicks: number) => 2 + ((WIDTH - 4) * Math.min(clicks, most)) / Math.max(1, most);
  return (
    <svg
      width={WIDTH}
      height={HEIGHT}
      role="img"
      aria-label={`${count(gain.clicks)} clicks a month, likely ${count(gain.low)} to ${count(gain.high)}`}
      className="text-success"
    >
      <line x1={1} x2={1} y1={0} y2={HEIGHT} className="stroke-(--hairline)" />
      <line x1={x(gain.low)} x2={x(gain.high)} y1={5} y2={5} stroke="currentColor" strokeWidth={2} />
      <circle cx={x(gain.clicks)} cy={5} r={3.5} fill="currentColor" />
    </svg>
  );
}
