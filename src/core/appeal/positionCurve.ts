import { antitonic } from '../statistics/isotonic';

/** Clicks and impressions of a page's searches seen at about one position. */
export type PositionBin = {
  /** The page. Pages with a high CTR at all positions must not bend the curve. */
  readonly page?: number;
  readonly position: number;
  readonly clicks: number;
  readonly impressions: number;
};

/**
 * Expected CTR at a position (1 is best, fractions allowed): positive, and never rising with it.
 */
export type PositionCurve = (position: number) => number;

/** Impressions that the smooth default weighs at each position. */
const PULL_IMPRESSIONS = 500;
/** Positions known one by one; further down the curve goes on as the default does. */
const LAST_POSITION = 30;

/** The usual fall of CTR with position, up to a factor: common practice, no published source. */
function usual(position: number): number {
  return Math.pow(Math.max(1, position), -1.1);
}
const USUAL_FIRST = 0.25;

/** The page of bins of which it is not said: all of them are taken for one. */
const NO_PAGE = -1;
/** Rounds in which the levels of pages and the curve are fitted by turns. */
const ROUNDS = 8;

/**
 * A site’s CTR by position: a multiplicative model with a level for each page and a rate for each
 * whole position, fitted by alternation, so that a popular page at a high position doesn’t steepen
 * the curve. Thin data is shrunk toward a smooth default, and the curve made monotone by
 * pool-adjacent-violators weighted by impressions, then interpolated. It is scaled so that expected
 * clicks add up to actual clicks.
 */
export function positionCurve(given: Iterable<PositionBin>): PositionCurve {
  const bins = [...given];
  const pages = new Map<number, { clicks: number; expected: number; level: number }>();
  for (const { page = NO_PAGE } of bins) pages.set(page, { clicks: 0, expected: 0, level: 1 });
  let [seen, impressions] = [0, 0];
  for (const bin of bins) {
    seen += bin.clicks;
    impressions += bin.impressions * usual(bin.position);
    pages.get(bin.page ?? NO_PAGE)!.clicks += bin.clicks;
  }
  // The default's height is the site's own, as far as there are clicks to tell.
  const first = Math.min(0.9, (seen + 20 * USUAL_FIRST) / (impressions + 20));
  let curve: PositionCurve = (position) => first * usual(position);
  for (let round = 0; round < ROUNDS; round++) {
    for (const page of pages.values()) page.expected = 0;
    for (const bin of bins) pages.get(bin.page ?? NO_PAGE)!.expected += bin.impressions * curve(bin.position);
    // A page with few clicks is held to be chosen as the site is.
    for (const page of pages.values()) page.level = (page.clicks + 10) / (page.expected + 10);
    curve = fitted(bins, (page) => pages.get(page)!.level, first);
  }
  const expected = bins.reduce((sum, bin) => sum + bin.impressions * curve(bin.position), 0);
  const height = (seen + 20) / (expected + 20);
  return (position) => Math.min(1, height * curve(position));
}

function fitted(
  bins: readonly PositionBin[],
  levelOf: (page: number) => number,
  first: number,
): PositionCurve {
  const clicks = new Float64Array(LAST_POSITION + 1);
  const impressions = new Float64Array(LAST_POSITION + 1);
  for (const bin of bins) {
    const at = Math.round(Math.max(1, bin.position));
    if (at > LAST_POSITION) continue;
    clicks[at]! += bin.clicks;
    impressions[at]! += bin.impressions * levelOf(bin.page ?? NO_PAGE);
  }
  const positions = Array.from({ length: LAST_POSITION }, (_, i) => i + 1);
  const weights = positions.map((p) => impressions[p]! + PULL_IMPRESSIONS);
  const pulled = positions.map((p, i) => (clicks[p]! + PULL_IMPRESSIONS * first * usual(p)) / weights[i]!);
  const falling = antitonic(pulled, weights);
  const last = falling[LAST_POSITION - 1]!;
  // Asked millions of times: logarithms are taken once.
  const logs = Float64Array.from(falling, Math.log);
  return (position) => {
    if (position <= 1) return falling[0]!;
    if (position >= LAST_POSITION) return (last * usual(position)) / usual(LAST_POSITION);
    const below = Math.floor(position);
    const share = position - below;
    if (share === 0) return falling[below - 1]!;
    return Math.exp((1 - share) * logs[below - 1]! + share * logs[below]!);
  };
}
