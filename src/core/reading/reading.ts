import { addDays, type Day } from '../calendar/day';
import { changeSpans, interimSpans, type ChangeSpans, type Span } from '../calendar/span';
import { compareTotals, type Metrics } from '../measures/comparison';
import { sumFigures, type DayFigures } from '../measures/totals';
import { findCautions } from './cautions';
import { coveredDays, type ReadingInput } from './input';
import type { Compared, Reading, Verdict } from './model';
import { finalOn } from './readable';

/**
 * Reads a change: its spans, the four measures before and after, and the reasons to doubt them. The difference
 * is the raw change; nothing is taken off for season, updates or what untouched pages did, and no cause is claimed.
 * Throws RangeError for impossible window or settling days.
 */
export function makeReading(input: ReadingInput): Reading {
  const { change, lastReadable } = input;
  const spans = changeSpans(change.day, input.windowDays, input.settlingDays);
  const complete = lastReadable !== null && lastReadable >= spans.after.lastDay;
  const compared = comparedSpans(spans, lastReadable);
  const yetToCome = (day: Day): Day | null => {
    const expected = finalOn(day, input.provisionalDays);
    return expected > input.today ? expected : null;
  };

  const compareRows = (rows: readonly DayFigures[], covered: ReadonlySet<Day>): Metrics => {
    const total = (span: Span | null | undefined) =>
      span && coveredDays(span, covered) > 0 ? sumFigures(rows, span) : null;
    return compareTotals(total(compared?.before), total(compared?.after));
  };
  const metrics = compareRows(input.pageDays, input.daysWithFigures);
  return {
    change,
    spans: {
      ...spans,
      complete,
      completeOn: complete ? null : yetToCome(spans.after.lastDay),
      // Spans are compared in whole weeks until they are complete, so one of a week or less has no interim figure.
      interimOn:
        compared?.after || spans.windowDays <= 7 ? null : yetToCome(addDays(spans.after.firstDay, 6)),
    },
    compared,
    metrics,
    queries: input.queryDays.map(({ query, days }) => ({
      query,
      metrics: compareRows(days, input.daysWithQueries),
    })),
    verdict: verdictOf(complete, metrics),
    cautions: findCautions(input, spans, compared, metrics),
  };
}

function comparedSpans(spans: ChangeSpans, lastReadable: Day | null): Compared {
  if (lastReadable === null) return null;
  if (lastReadable >= spans.after.lastDay) return { before: spans.before, after: spans.after };
  const interim = interimSpans(spans, lastReadable);
  if (interim) return interim;
  const { firstDay, lastDay } = spans.before;
  if (lastReadable < firstDay) return null;
  return { before: { firstDay, lastDay: lastReadable < lastDay ? lastReadable : lastDay }, after: null };
}

function verdictOf(complete: boolean, metrics: Metrics): Verdict {
  if (!complete) return 'waiting';
  return metrics.clicks.before === null || metrics.clicks.after === null ? 'no-figures' : 'raw-change';
}
