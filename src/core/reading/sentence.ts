import type { Metrics } from '../measures/comparison';
import { METRIC_NAMES, type Metric } from '../model/change';
import { longDay, metricDifference, metricValue, percentChange, spanText } from '../words/format';
import type { Reading } from './model';

/** The sentence that opens a reading, in two parts: what was seen, and what may not be concluded from it. */
export function readingSentence(reading: Reading): { seen: string; limits: string } {
  const { compared, metrics, spans } = reading;
  const { before, after } = metrics.clicks;
  if (reading.verdict === 'no-figures') {
    const side = before === null ? spans.before : spans.after;
    return {
      seen: `There are no figures for the ${before === null ? 'before' : 'after'} span, ${spanText(side)}.`,
      limits: 'Bring in a file that covers these days, and the reading fills itself.',
    };
  }
  if (before === null || after === null || !compared?.after) {
    return {
      seen: compared ? 'Too soon to compare anything.' : 'There are no figures for these days yet.',
      limits: whenToLook(reading),
    };
  }
  const seen = movement(reading);
  if (reading.verdict === 'waiting') {
    const weeks = (compared.after.lastDay - compared.after.firstDay + 1) / 7;
    return {
      seen: `So far, ${seen.startsWith('CTR') ? seen : seen.charAt(0).toLowerCase() + seen.slice(1)}`,
      limits: `Interim, over ${weeks === 1 ? 'one whole week' : `${weeks} whole weeks`} on both sides. ${whenToLook(reading)}`,
    };
  }
  return { seen, limits: 'This is the raw change: what season, updates and chance did is still in it.' };
}

/** When a reading that waits can be looked at, or what it waits for where the days themselves are over. */
function whenToLook({ spans }: Reading): string {
  if (spans.completeOn === null) {
    return `Its days are over: bring in figures up to ${longDay(spans.after.lastDay)}, and the reading is complete.`;
  }
  const complete = `reading will be complete on ${longDay(spans.completeOn)}.`;
  return spans.interimOn === null
    ? `The ${complete}`
    : `A first interim figure comes on ${longDay(spans.interimOn)}; the ${complete}`;
}

/**
 * How the metric moved on which the effect was expected, and then the clicks, to which everything comes down.
 * Without an expectation, the clicks alone.
 */
function movement({ metrics, change }: Reading): string {
  const expected = change.expectation?.metric ?? 'clicks';
  const clicks = `Clicks ${moved('clicks', metrics)}.`;
  if (expected === 'clicks') return clicks;
  return `${METRIC_NAMES[expected]}, where the effect was expected, ${moved(expected, metrics)}. ${clicks}`;
}

/** "rose from 412 to 498 (+86, +20.9%)"; of a position, that it improved or worsened, by so many places. */
function moved(metric: Metric, metrics: Metrics): string {
  const { before, after } = metrics[metric];
  if (before === null || after === null) return 'cannot be compared, being absent on one side';
  const gain = metric === 'position' ? metrics.position.placesGained : metrics[metric].difference;
  const [from, to] = [metricValue(metric, before), metricValue(metric, after)];
  if (gain === null || from === to) return `stayed at ${to}`;
  const difference = metricDifference(metric, gain);
  if (metric === 'position')
    return `${gain > 0 ? 'improved' : 'worsened'} from ${from} to ${to} (${difference})`;
  const { ratio } = metrics[metric];
  const share = ratio === null ? '' : `, ${percentChange(ratio)}`;
  return `${gain > 0 ? 'rose' : 'fell'} from ${from} to ${to} (${difference}${share})`;
}
