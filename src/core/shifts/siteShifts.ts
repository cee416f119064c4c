/*
 * Level shifts of a whole site: steps in daily clicks that season, drift and weekday don’t explain.
 */

import { Matrix, solve } from 'ml-matrix';
import { addDays, type Day } from '../calendar/day';
import { overlap, type Span } from '../calendar/span';
import { Z90 } from '../statistics/normal';
import type { LevelShift } from './levelShifts';

/** Days on either side of a candidate that its step is estimated from. */
const WINDOW = 35;
/** Fewer days before or after say too little of a step. */
const [LEAST_BEFORE, LEAST_AFTER] = [28, 7];
/**
 * Standard deviations of the season's first three derivatives by day, in logs: those of a yearly
 * wave that doubles and halves.
 */
const SEASON = [1.2e-2, 2.5e-4, 7e-6] as const;
/**
 * A step has to lie this many standard errors off nought: on any of the some 450 days of sixteen
 * months, and on the few days about an event that somebody noted. Set on invented sites without a
 * step (docs/openings.md).
 */
const [CRITICAL, CRITICAL_NEAR_EVENT] = [3.7, 2.8] as const;
/** Days around an event on which its step may begin. */
const NEAR_EVENT = 3;
/** Smaller steps are not worth a line, however plain. */
const LEAST_STEP = Math.log(1.04);
/** Half the width of a 90% interval for the day, in units of twice the log likelihood. */
const LIKELY_DAYS = 2.71;
const MOST_STEPS = 12;
const WEEK = 7;

/**
 * The site's own noise: innovations of a first-order autoregression, robustly, and by how much
 * steps that are none scatter wider than it says.
 */
type Noise = { readonly rho: number; readonly sigma: number; readonly scatter: number };

/** Terms of the regression: level, three derivatives of the season, and the step. */
const TERMS = 5;

/** A step at a place, with its standard error. */
type Step = { readonly at: number; readonly log: number; readonly standardError: number };

/**
 * The days on which the level of a whole site shifted, the oldest first. Each candidate day is the
 * step term of a regression of log clicks on a smooth local season (its derivatives bounded by
 * those of a yearly wave), with first-order autoregressive noise estimated from the site itself.
 * Steps are taken one after the other, the plainest first. How often a step is
 * found, and how often a smooth season gives a false one, is measured in docs/openings.md.
 *
 * The year before is not taken off: what happened then would come back with the opposite sign.
 *
 * Sources: generalised least squares with autoregressive errors, Cochrane and Orcutt, JASA 44
 * (1949) 32-61; the interval of the day by profile likelihood, Hinkley, Biometrika 57 (1970) 1-17
 * (both from memory).
 *
 * @param clicks clicks of each day from the first on; null where the site has no figures
 * @param events days of noted events, about which less evidence is enough
 */
export function siteShifts(
  firstDay: Day,
  clicks: readonly (number | null)[],
  events: readonly Span[] = [],
): LevelShift[] {
  const criticalAt = (at: number) =>
    events.some((event) => overlap(event, around((firstDay + at) as Day)) !== null)
      ? CRITICAL_NEAR_EVENT
      : CRITICAL;
  const logs = weekdaysOff(clicks.map((n) => (n === null ? NaN : Math.log(n + 0.5))));
  const plain = noiseOf(logs);
  if (!plain) return [];
  const noise = { ...plain, scatter: scatterOf(logs, plain) };
  const found: Step[] = [];
  while (found.length < MOST_STEPS) {
    const top = plainest(without(logs, found), noise, found, criticalAt);
    if (!top) break;
    found.push(top);
  }
  // Each again with all others taken off, so that neighbours do not share a step.
  return found
    .map((step) =>
      described(
        firstDay,
        without(
          logs,
          found.filter((one) => one !== step),
        ),
        noise,
        step.at,
      ),
    )
    .filter(({ low, high }) => low > 1 || high < 1)
    .sort((a, b) => a.day - b.day);
}

const around = (day: Day): Span => ({
  firstDay: addDays(day, -NEAR_EVENT),
  lastDay: addDays(day, NEAR_EVENT),
});

/** Takes off the usual difference of each weekday to the week around it. */
function weekdaysOff(logs: readonly number[]): number[] {
  const differences = Array.from({ length: WEEK }, (): number[] => []);
  for (let i = 3; i + 3 < logs.length; i++) {
    const week = logs.slice(i - 3, i + 4);
    const difference = logs[i]! - week.reduce((a, b) => a + b, 0) / WEEK;
    if (!Number.isNaN(difference)) differences[i % WEEK]!.push(difference);
  }
  const usual = differences.map((list) => (list.length > 0 ? median(list) : 0));
  return logs.map((log, i) => log - usual[i % WEEK]!);
}

/**
 * The noise about a smooth season, from windows as wide as those of the steps; null for too few
 * days.
 */
function noiseOf(logs: readonly number[]): Noise | null {
  const residuals = new Float64Array(logs.length).fill(NaN);
  // Robust to the steps: residuals are taken to the median of surrounding days, less the slope.
  for (let i = 0; i < logs.length; i++) residuals[i] = logs[i]! - localMedian(logs, i);
  const known = [...residuals].filter((one) => !Number.isNaN(one));
  if (known.length < 2 * WINDOW) return null;
  const scale = Math.max(1e-3, 1.4826 * median(known.map(Math.abs)));
  const clipped = (value: number) => Math.max(-3 * scale, Math.min(3 * scale, value));
  let [cross, square] = [0, 0];
  for (let i = 1; i < residuals.length; i++) {
    const [before, now] = [residuals[i - 1]!, residuals[i]!];
    if (Number.isNaN(before) || Number.isNaN(now)) continue;
    cross += clipped(before) * clipped(now);
    square += clipped(before) ** 2;
  }
  const rho = Math.max(0, Math.min(0.95, cross / square));
  const innovations: number[] = [];
  for (let i = 1; i < residuals.length; i++) {
    const innovation = residuals[i]! - rho * residuals[i - 1]!;
    if (!Number.isNaN(innovation)) innovations.push(Math.abs(innovation));
  }
  return { rho, sigma: Math.max(1e-3, 1.4826 * median(innovations)), scatter: 1 };
}

/** The scale of the standardised steps of all days, nearly all of which are none. At least 1. */
function scatterOf(logs: readonly number[], noise: Noise): number {
  const sizes: number[] = [];
  for (let at = LEAST_BEFORE; at + WINDOW / 2 <= logs.length; at++) {
    const step = stepAt(logs, noise, at);
    if (step) sizes.push(sizeOf(step));
  }
  return sizes.length < WINDOW ? 1 : Math.max(1, 1.4826 * median(sizes));
}

/** The median of the days around one, on a straight line through the medians of both sides. */
function localMedian(logs: readonly number[], at: number): number {
  const side = (from: number, to: number) => {
    const list = logs.slice(Math.max(0, from), to).filter((one) => !Number.isNaN(one));
    return list.length > 0 ? median(list) : NaN;
  };
  const [left, right] = [side(at - WINDOW / 2, at), side(at + 1, at + 1 + WINDOW / 2)];
  if (Number.isNaN(left)) return right;
  return Number.isNaN(right) ? left : (left + right) / 2;
}

/** The logs without steps that were found before. */
function without(logs: readonly number[], steps: readonly Step[]): number[] {
  return logs.map((log, i) => log - steps.reduce((sum, { at, log: step }) => sum + (i >= at ? step : 0), 0));
}

/**
 * The step that is plainest, if it is plain at all and no closer than a week to one that was
 * found.
 */
function plainest(
  logs: readonly number[],
  noise: Noise,
  found: readonly Step[],
  criticalAt: (at: number) => number,
): Step | null {
  let most = 0;
  let best: Step | null = null;
  for (let at = LEAST_BEFORE; at + LEAST_AFTER <= logs.length; at++) {
    if (found.some((one) => Math.abs(one.at - at) < WEEK)) continue;
    const step = stepAt(logs, noise, at);
    if (!step || Math.abs(step.log) < LEAST_STEP) continue;
    const size = sizeOf(step) / criticalAt(at);
    if (size >= Math.max(1, most)) [best, most] = [step, size];
  }
  return best;
}

const sizeOf = ({ log, standardError }: Step) => Math.abs(log) / standardError;

/**
 * The step before a place, by generalised least squares beside a smooth local season; null for too
 * few days.
 */
function stepAt(logs: readonly number[], { rho, sigma, scatter }: Noise, at: number): Step | null {
  const from = Math.max(0, at - WINDOW);
  const to = Math.min(logs.length, at + WINDOW);
  const normal = new Float64Array(TERMS * TERMS);
  const right = new Float64Array(TERMS);
  const x = new Float64Array(TERMS);
  let [before, after] = [0, 0];
  for (let i = from; i < to; i++) {
    if (Number.isNaN(logs[i]!)) continue;
    if (i < at) before += 1;
    else after += 1;
    const follows = i > from && !Number.isNaN(logs[i - 1]!);
    // The first day of a run carries its whole variance.
    const own = (follows ? 1 : Math.sqrt(1 - rho * rho)) / sigma;
    const last = follows ? rho / sigma : 0;
    const [u, v] = [i - at, i - 1 - at];
    x[0] = own - last;
    x[1] = own * u - last * v;
    x[2] = (own * u * u - last * v * v) / 2;
    x[3] = (own * u * u * u - last * v * v * v) / 6;
    x[4] = (u >= 0 ? own : 0) - (v >= 0 ? last : 0);
    const y = own * logs[i]! - (follows ? last * logs[i - 1]! : 0);
    for (let r = 0; r < TERMS; r++) {
      right[r]! += x[r]! * y;
      for (let c = 0; c < TERMS; c++) normal[r * TERMS + c]! += x[r]! * x[c]!;
    }
  }
  if (before < LEAST_BEFORE / 2 || after < LEAST_AFTER - 1) return null;
  SEASON.forEach((deviation, k) => (normal[(k + 1) * (TERMS + 1)]! += deviation ** -2));
  const unknowns = Matrix.from1DArray(TERMS, TERMS, normal);
  const sides = Matrix.from1DArray(2, TERMS, [...right, 0, 0, 0, 0, 1]).transpose();
  const solved = solve(unknowns, sides);
  return {
    at,
    log: solved.get(TERMS - 1, 0),
    standardError: scatter * Math.sqrt(solved.get(TERMS - 1, 1)),
  };
}

/** A step as a level shift, with the days on which it may have been. */
function described(firstDay: Day, logs: readonly number[], noise: Noise, at: number): LevelShift {
  const step = stepAt(logs, noise, at)!;
  const enough = sizeOf(step) ** 2 - LIKELY_DAYS;
  let [first, last] = [at, at];
  const likely = (place: number) => {
    const one = stepAt(logs, noise, place);
    return one !== null && sizeOf(one) ** 2 >= enough && one.log * step.log > 0;
  };
  while (first > LEAST_BEFORE && likely(first - 1)) first -= 1;
  while (last + LEAST_AFTER < logs.length && likely(last + 1)) last += 1;
  const half = Z90 * step.standardError;
  const ratio = Math.exp(step.log);
  return {
    day: (firstDay + at) as Day,
    firstDay: (firstDay + first) as Day,
    lastDay: (firstDay + last) as Day,
    ...{ ratio, low: Math.exp(step.log - half), high: Math.exp(step.log + half), local: ratio },
  };
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}
