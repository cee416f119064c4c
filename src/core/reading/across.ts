import type { Span } from '../calendar/span';
import { moved } from './readingSentence';
import type { OutsideEvent } from '../model/event';
import type { Net } from '../effect/effect';
import type { Mark } from '../effect/verdict';
import type { Metrics } from '../measures/comparison';

/** One page, or a part of the site, across an event: what it did beyond what the rest of the site did. */
export type AcrossLine = {
  readonly name: string;
  /** Null for a part of the site. */
  readonly pageId: number | null;
  readonly pages: number;
  /** What was counted before and after, as it stands. */
  readonly raw: Metrics;
  readonly net: Net;
  readonly mark: Mark;
};

/** Who moved across an outside event, measured as a reading is: the days before it against those after it. */
export type Across = {
  readonly event: OutsideEvent;
  readonly before: Span;
  readonly after: Span;
  /** Null where the days after it are not over yet, or there are no figures. */
  readonly lines: {
    /** The whole site, which has nothing beside it to be net of. */
    readonly site: Metrics;
    readonly parts: readonly AcrossLine[];
    readonly pages: readonly AcrossLine[];
  } | null;
};

/** Of pages that nothing happened to, so many in a hundred are marked as moved by chance: the ranges hold nine in ten. */
export const MOVED_BY_CHANCE = 0.1;

/**
 * How a net effect goes with what was counted, in words; null where the two go the same way. A part that fell less than the rest is
 * lifted net of it, and should not be read as a rise.
 * @example relativeText(line) // "fell, but less than the rest"
 */
export function relativeText({ raw, net, mark }: AcrossLine): string | null {
  const ratio = raw.clicks.ratio;
  if (ratio === null || !net.clicks) return null;
  if (mark === 'lifted' && ratio < 1) return 'fell, but less than the rest';
  if (mark === 'dropped' && ratio > 1) return 'rose, but less than the rest';
  return null;
}

/**
 * What happened across an event in one or two sentences: the site's own clicks first, then the part that fell furthest.
 * @example acrossSentence(lines, 'the site') // "Clicks of the whole site fell from 12,025 to 10,510 (−1,515, −12.6%). /shop/ fell most: from 3,000 to 1,980 (−1,020, −34.0%)."
 */
export function acrossSentence({ site, parts }: NonNullable<Across['lines']>): string {
  const whole = `Clicks of the whole site ${moved('clicks', site)}.`;
  const fallen = parts.filter(({ raw, mark }) => mark === 'dropped' && (raw.clicks.ratio ?? 1) < 1);
  const worst = fallen.reduce<AcrossLine | null>(
    (most, one) => (most && (most.raw.clicks.ratio ?? 1) <= (one.raw.clicks.ratio ?? 1) ? most : one),
    null,
  );
  return worst ? `${whole} ${worst.name} fell most: clicks ${moved('clicks', worst.raw)}.` : whole;
}
