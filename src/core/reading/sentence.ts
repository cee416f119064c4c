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
  if (before === null || after === null || !compared) {
    return {
      seen: 'Too soon to compare anything.',
      limits: spans.completeOn
        ? `A first interim figure comes after one whole week; the reading is complete on ${longDay(spans.completeOn)}.`
        : '',
    };
  }
  const seen = clicksSentence(reading);
  if (reading.verdict === 'waiting') {
    const weeks = (compared.after.lastDay - compared.after.firstDay + 1) / 7;
    return {
      seen: `So far: ${seen}`,
      limits: `Interim, over ${weeks === 1 ? 'one whole week' : `${weeks} whole weeks`} on both sides; complete on ${spans.completeOn ? longDay(spans.completeOn) : 'a later day'}.`,
    };
  }
  return { seen, limits: 'This is the raw change: what season, updates and chance did is still in it.' };
}

function clicksSentence({ metrics }: Reading): string {
  const { before, after, ratio, difference } = metrics.clicks;
  const from = metricValue('clicks', before);
  const to = metricValue('clicks', after);
  if (difference === 0) return `Clicks stayed at ${to}.`;
  const verb = (difference ?? 0) > 0 ? 'rose' : 'fell';
  const share = ratio === null ? '' : `, ${percentChange(ratio)}`;
  return `Clicks ${verb} from ${from} to ${to} (${metricDifference('clicks', difference)}${share}).`;
}
