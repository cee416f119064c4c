import { changeSpans, type ChangeSpans, type Span } from '../../core/calendar/span';
import type { Change } from '../../core/model/change';
import type { Site } from '../../core/model/site';
import { settlingUntilCrawled } from '../../core/model/steps';

/** Spans wanted for a reading; what is absent comes from the change, then from the site. */
export type SpanQuery = { readonly windowDays?: number | null; readonly settlingDays?: number | null };

/** The spans of a change: as asked, else as the change says, else the site’s defaults. */
export function spansOf(site: Site, change: Change, wish: SpanQuery = {}): ChangeSpans {
  const windowDays = wish.windowDays ?? change.windowDays ?? site.windowDays;
  const settlingDays =
    wish.settlingDays ??
    settlingUntilCrawled(
      change.settlingDays ?? site.settlingDays,
      change.windowDays ?? site.windowDays,
      change,
    );
  return changeSpans(change.day, windowDays, settlingDays);
}

/** From the first day of the before span to the last of the after span. */
export function wholeSpan({ before, after }: ChangeSpans): Span {
  return { firstDay: before.firstDay, lastDay: after.lastDay };
}
