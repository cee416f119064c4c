import type { Span } from '../calendar/span';
import { moved } from './readingSentence';
import type { OutsideEvent } from '../model/event';
import type { Net } from '../effect/effect';
import type { Mark } from '../effect/verdict';
import type { Metrics } from '../measures/comparison';

/** A page or a part of the site across an event, net of the rest of the site. */
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

/** Pages that rose or fell across an event: the days before it compared with the days after it. */
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

/** Share of unaffected pages marked as moved by chance, since ranges are 90% ranges. */
export const MOVED_BY_CHANCE = 0.1;

/**
 * How a net effect differs from the counted change, in words; null if both go the same way. A part
 * that fell less than the rest is lifted net of it, which must not read as a rise.
 *
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
 * What happened across an event, in one or two sentences: the site’s own clicks, then the part that
 * fell most.
 *
 * @example
 * acrossSentence(lines, 'the site')
 * // "Clicks of the whole site fell from 12,025 to 10,510 (−1,515, −12.6%). /shop/ fell most: …"
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
