/* Strips of days as a vector picture, for print and for files; the same values on the same kind of axes as on screen. */

import { addDays } from '../calendar/day';
import { MEASURE_NAMES } from '../measures/registry';
import { metricValue, shortDay } from '../words/format';
import { escaped } from './escape';
import type { ReportStrips } from '../model/reportContent';

const [WIDTH, LEFT, RIGHT, HEIGHT, FOOT] = [720, 96, 12, 52, 44];
/** The least range of a strip, as a share of its largest value, so that no hair's breadth looks like a leap. */
const LEAST_RANGE = 0.1;
const STROKE = {
  line: 'fill:none;stroke:var(--muted,#6b655a);stroke-width:1.1',
  hair: 'stroke:var(--hairline,#ddd6c5);stroke-width:1',
  ink: 'stroke:var(--color-base-content,#22201b);stroke-width:2',
  band: 'fill:var(--band,#b9862a);fill-opacity:.22',
} as const;
const TEXT = {
  name: "fill:var(--color-base-content,#22201b);font:600 12px 'Public Sans Variable','Public Sans',sans-serif",
  small: "fill:var(--muted,#6b655a);font:11px 'Public Sans Variable','Public Sans',sans-serif",
  band: "fill:var(--band-text,#805400);font:10px 'Public Sans Variable','Public Sans',sans-serif",
} as const;

/** Bounds of a strip: all its values with a little air. */
function boundsOf(values: readonly (number | null)[]): { low: number; high: number } {
  const present = values.filter((value): value is number => value !== null);
  if (present.length === 0) return { low: 0, high: 1 };
  const [low, high] = [Math.min(...present), Math.max(...present)];
  const range = Math.max(high - low, high * LEAST_RANGE) || 1;
  return { low: (low + high) / 2 - 0.62 * range, high: (low + high) / 2 + 0.62 * range };
}

/** The strips as an SVG element, with its figures' ends written beside them. Days without figures leave a gap. */
export function stripsSvg({ title, shown, strips, changes, events }: ReportStrips): string {
  const days = shown.lastDay - shown.firstDay + 1;
  const x = (day: number) => LEFT + ((day - shown.firstDay + 0.5) / days) * (WIDTH - LEFT - RIGHT);
  const height = strips.length * HEIGHT + FOOT;
  const parts: string[] = [];
  const base = strips.length * HEIGHT;
  for (const { firstDay, lastDay } of events) {
    const [from, to] = [Math.max(firstDay, shown.firstDay), Math.min(lastDay, shown.lastDay)];
    parts.push(rect(x(from - 0.5), 0, Math.max(2, x(to + 0.5) - x(from - 0.5)), base, STROKE.band));
  }
  strips.forEach(({ metric, values }, i) => {
    const top = i * HEIGHT;
    const { low, high } = boundsOf(values);
    // Up is better in every strip: a small position is a good one.
    const share = (value: number) => (metric === 'position' ? high - value : value - low) / (high - low);
    const y = (value: number) => top + HEIGHT - 5 - share(value) * (HEIGHT - 10);
    let path = '';
    values.forEach((value, at) => {
      if (value === null) return;
      const begins = at === 0 || values[at - 1] === null;
      path += `${begins ? 'M' : 'L'}${x(shown.firstDay + at).toFixed(1)} ${y(value).toFixed(1)}`;
    });
    const last = values.findLast((value) => value !== null) ?? null;
    parts.push(
      `<line x1="0" x2="${WIDTH}" y1="${top + HEIGHT}" y2="${top + HEIGHT}" style="${STROKE.hair}"/>`,
      text(0, top + 20, MEASURE_NAMES[metric], TEXT.name),
      text(0, top + 35, `${metricValue(metric, last)} at the end`, TEXT.small),
      `<path d="${path}" style="${STROKE.line}"/>`,
    );
  });
  for (const { day, title: what } of changes)
    parts.push(
      `<line x1="${x(day).toFixed(1)}" x2="${x(day).toFixed(1)}" y1="${base + 1}" y2="${base + 9}" style="${STROKE.ink}"><title>${escaped(what)}</title></line>`,
    );
  parts.push(text(0, base + 10, 'changes', TEXT.small));
  for (let day = shown.firstDay; day <= shown.lastDay; day = addDays(day, Math.max(7, Math.round(days / 6))))
    parts.push(text(x(day), base + 23, shortDay(day), TEXT.small));
  let free = LEFT;
  for (const { firstDay, name } of [...events].sort((a, b) => a.firstDay - b.firstDay)) {
    const at = Math.max(x(Math.max(firstDay, shown.firstDay)), free);
    const wide = name.length * 5.4;
    if (at + wide > WIDTH) continue;
    parts.push(text(at, base + 38, name, TEXT.band));
    free = at + wide + 12;
  }
  return `<svg viewBox="0 0 ${WIDTH} ${height}" width="100%" role="img" aria-label="${escaped(title)}" xmlns="http://www.w3.org/2000/svg">${parts.join('')}</svg>`;
}

const rect = (x: number, y: number, width: number, height: number, style: string) =>
  `<rect x="${x.toFixed(1)}" y="${y}" width="${width.toFixed(1)}" height="${height}" style="${style}"/>`;
const text = (x: number, y: number, words: string, style: string) =>
  `<text x="${x.toFixed(1)}" y="${y}" style="${style}">${escaped(words)}</text>`;
