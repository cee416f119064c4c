import { antitonic } from '../statistics/isotonic';

/** Clicks and impressions of searches seen at about one position. */
export type PositionBin = {
  readonly position: number;
  readonly clicks: number;
  readonly impressions: number;
};

/** CTR to be expected at a position (1 is best, fractions allowed), never rising with it, always above 0. */
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

/**
 * A site's own CTR by position: observed at each whole position, pulled toward the smooth default where data is thin,
 * and made to fall by pool-adjacent-violators with impressions as weights. Between whole positions it is interpolated.
 */
export function positionCurve(bins: Iterable<PositionBin>): PositionCurve {
  const clicks = new Float64Array(LAST_POSITION + 1);
  const impressions = new Float64Array(LAST_POSITION + 1);
  let [seen, expected] = [0, 0];
  for (const bin of bins) {
    seen += bin.clicks;
    expected += bin.impressions * usual(bin.position);
    const at = Math.round(Math.max(1, bin.position));
    if (at > LAST_POSITION) continue;
    clicks[at]! += bin.clicks;
    impressions[at]! += bin.impressions;
  }
  // The default's height is the site's own, as far as there are clicks to tell.
  const first = Math.min(0.9, (seen + 20 * USUAL_FIRST) / (expected + 20));
  const positions = Array.from({ length: LAST_POSITION }, (_, i) => i + 1);
  const weights = positions.map((p) => impressions[p]! + PULL_IMPRESSIONS);
  const pulled = positions.map((p, i) => (clicks[p]! + PULL_IMPRESSIONS * first * usual(p)) / weights[i]!);
  const fitted = antitonic(pulled, weights);
  const last = fitted[LAST_POSITION - 1]!;
  return (position) => {
    if (position <= 1) return fitted[0]!;
    if (position >= LAST_POSITION) return (last * usual(position)) / usual(LAST_POSITION);
    const below = Math.floor(position);
    const share = position - below;
    return Math.pow(fitted[below - 1]!, 1 - share) * Math.pow(fitted[below]!, share);
  };
}
