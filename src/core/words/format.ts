import { formatDay } from '../calendar/dateText';
import { asDay, isoDay, type Day } from '../calendar/day';
import type { Span } from '../calendar/span';
import { MEASURE_DESCRIPTIONS, type Measure, type Metric, type Unit } from '../measures/registry';

/** Numbers and days for people: English, thousands separators, a true minus sign. */
const whole = new Intl.NumberFormat('en-GB', { maximumFractionDigits: 0 });
const oneDecimal = new Intl.NumberFormat('en-GB', { minimumFractionDigits: 1, maximumFractionDigits: 1 });
const twoDecimals = new Intl.NumberFormat('en-GB', { minimumFractionDigits: 2, maximumFractionDigits: 2 });

const MINUS = '\u2212';
/** Shown where a measure is absent, which is not the same as 0. */
export const ABSENT = '\u2013';

function signed(text: string, value: number): string {
  // A value that rounds to zero gets no sign, so that "+0" never suggests a direction.
  if (!/[1-9]/.test(text)) return text.replace('-', '');
  return (value > 0 ? '+' : '') + text.replace('-', MINUS);
}

/** A count with thousands separators. */
export function count(n: number): string {
  return whole.format(n).replace('-', MINUS);
}

/** "1 day", "28 days". */
export function plural(n: number, one: string, many = `${one}s`): string {
  return `${count(n)} ${n === 1 ? one : many}`;
}

/** A measure in running text: lower case but for CTR. */
export function metricInText(measure: Measure): string {
  return MEASURE_DESCRIPTIONS[measure].inText;
}

/** How a value of each unit is written, without a sign. */
const VALUE_TEXTS: Readonly<Record<Unit, (value: number) => string>> = {
  count,
  share: (value) => `${twoDecimals.format(value * 100)}%`,
  ratio: (value) => twoDecimals.format(value),
  places: (value) => oneDecimal.format(value),
};

/** How a difference of each unit is written, with its sign. Of places, give the places gained. */
const DIFFERENCE_TEXTS: Readonly<Record<Unit, (value: number) => string>> = {
  count: (value) => signed(whole.format(value), value),
  share: (value) => `${signed(twoDecimals.format(value * 100), value)} pt`,
  ratio: (value) => signed(twoDecimals.format(value), value),
  places: placesGained,
};

/** A metric's value: counts whole, CTR in percent with two decimals, position with one, appeal with two. */
export function metricValue(metric: Metric, value: number | null): string {
  return value === null ? ABSENT : VALUE_TEXTS[MEASURE_DESCRIPTIONS[metric].unit](value);
}

/**
 * A difference with sign and unit. Give position in places gained: the text says "up" or "down",
 * since a bare sign would be ambiguous.
 */
export function metricDifference(metric: Metric, value: number | null): string {
  return value === null ? ABSENT : DIFFERENCE_TEXTS[MEASURE_DESCRIPTIONS[metric].unit](value);
}

/** Places gained in words. @example placesGained(0.32) // "0.3 places up" */
export function placesGained(value: number): string {
  const text = oneDecimal.format(Math.abs(value));
  if (text === '0.0') return 'level';
  return `${text} ${text === '1.0' ? 'place' : 'places'} ${value > 0 ? 'up' : 'down'}`;
}

/** A ratio after/before as a signed percentage. @example percentChange(1.209) // "+20.9%" */
export function percentChange(ratio: number | null): string {
  if (ratio === null) return ABSENT;
  const percent = (ratio - 1) * 100;
  // Beyond a thousand percent the decimal says nothing.
  const text = Math.abs(percent) >= 1000 ? whole.format(percent) : oneDecimal.format(percent);
  return `${signed(text, percent)}%`;
}

/**
 * A share in whole percent without a sign; one decimal below ten percent if it matters.
 *
 * @example share(0.241) // "24%"
 */
export function share(value: number): string {
  const percent = value * 100;
  return percent < 1 && percent >= 0.05 ? `${oneDecimal.format(percent)}%` : `${whole.format(percent)}%`;
}

/**
 * A net effect (ratio) in whole percent with its sign.
 *
 * @example netPercent(1.238) // "+24%"
 */
export function netPercent(ratio: number): string {
  const percent = (ratio - 1) * 100;
  return `${signed(whole.format(percent), percent)}%`;
}

/**
 * Distance of a log ratio from zero, in whole percent without a sign; null if it is none.
 *
 * @example netShare(-0.105) // "10%"
 */
export function netShare(net: number): string | null {
  const percent = Math.round(Math.abs(Math.expm1(net)) * 100);
  return percent === 0 ? null : `${whole.format(percent)}%`;
}

/** Where a verdict turns, in percent: no effect, and the upper edge of what counts as held. */
const DECIDING_PERCENT = [0, 10];
const MOST_DECIMALS = 4;

/**
 * A number with `least` decimals, or as many as keep it from being rounded onto a line it isn’t on.
 */
function offTheLines(value: number, lines: readonly number[], least: number): string {
  for (let decimals = least; ; decimals++) {
    const text = value.toFixed(decimals);
    const onLine = lines.some((line) => Number(text) === line && value !== line);
    if (!onLine || decimals === MOST_DECIMALS)
      return value.toLocaleString('en-GB', {
        minimumFractionDigits: decimals,
        maximumFractionDigits: decimals,
      });
  }
}

/**
 * A bound of a range (ratio) in percent with its sign, on the correct side of every line that
 * decides a verdict.
 *
 * @example boundPercent(1.09) // "+9%"; boundPercent(0.9962) // "−0.4%"
 */
export function boundPercent(ratio: number): string {
  const percent = (ratio - 1) * 100;
  return `${signed(offTheLines(percent, DECIDING_PERCENT, 0), percent)}%`;
}

/**
 * `boundPercent` without a sign, if the side is said in words.
 *
 * @example boundShare(0.9962) // "0.4%"
 */
export function boundShare(ratio: number): string {
  return `${offTheLines(Math.abs(ratio - 1) * 100, DECIDING_PERCENT, 0)}%`;
}

/**
 * A bound in places, in words; "level" only at zero.
 *
 * @example boundPlaces(0.02) // "0.02 places up"
 */
export function boundPlaces(value: number): string {
  if (value === 0) return 'level';
  const text = offTheLines(Math.abs(value), [0], 1);
  if (!/[1-9]/.test(text)) return 'level';
  return `${text} ${text === '1.0' ? 'place' : 'places'} ${value > 0 ? 'up' : 'down'}`;
}

/** "14 September 2026" */
export function longDay(day: Day): string {
  return formatDay(day, 'd MMMM yyyy');
}

/** "14 Sep" */
export function shortDay(day: Day): string {
  return formatDay(day, 'd MMM');
}

/** "14 Sep 2026" */
export function mediumDay(day: Day): string {
  return formatDay(day, 'd MMM yyyy');
}

/** "September 2026" */
export function monthName(day: Day): string {
  return formatDay(day, 'MMMM yyyy');
}

/** "17 Aug – 13 Sep", with the year on both ends where they differ, and one day alone where it is one. */
export function spanText(span: Span): string {
  if (span.firstDay === span.lastDay) return shortDay(span.firstDay);
  const sameYear = isoDay(span.firstDay).slice(0, 4) === isoDay(span.lastDay).slice(0, 4);
  const write = sameYear ? shortDay : mediumDay;
  return `${write(span.firstDay)} – ${write(span.lastDay)}`;
}

/** A span with its year: "6 Oct – 13 Oct 2026", or both years where they differ. */
export function datedSpan(span: Span): string {
  if (span.firstDay === span.lastDay) return mediumDay(span.firstDay);
  const sameYear = isoDay(span.firstDay).slice(0, 4) === isoDay(span.lastDay).slice(0, 4);
  return `${sameYear ? shortDay(span.firstDay) : mediumDay(span.firstDay)} – ${mediumDay(span.lastDay)}`;
}

/** Day of the month as a number, for lists grouped by month. */
export function dayOfMonth(day: Day): number {
  return Number(isoDay(asDay(day)).slice(8));
}
