import { type Change } from '../../core/model/change';
import { MEASURE_NAMES, METRICS, type Metric } from '../../core/measures/registry';
import type { Reading } from '../../core/reading/readingModel';
import type { ReportContent, ReportTable } from '../../core/model/reportContent';
import { netText, rangeText, VERDICT_NAMES } from '../../core/effect/effectWords';
import { ABSENT, metricDifference, metricValue, percentChange, spanText } from '../../core/words/format';
import { readingSentence, plainSentence } from '../../core/reading/readingSentence';
import { readChange } from '../reading/readChange';
import type { SiteContext } from '../site/siteContext';
import { buildReport } from './build';
import { cell, columns, type ReportTools } from './reportContext';

/** A single reading as a report of one page: its sentence, its figures, the days around it, its doubts; null without figures. */
export function readingReport(
  context: SiteContext,
  tools: ReportTools,
  change: Change,
): ReportContent | null {
  const reading = readChange(context, tools.engines, change);
  const { spans, cautions } = reading;
  const content = buildReport(context, tools, {
    ...{ siteId: change.siteId, title: change.title, leaveOut: [] },
    ...{ firstDay: spans.before.firstDay, lastDay: spans.after.lastDay },
    scope: { kind: 'changes', changeIds: [change.id] },
    parts: ['changes', 'traffic', 'glossary'],
  });
  if (!content) return null;
  const said = [plainSentence(readingSentence(reading)), ...cautions.map(({ message }) => message)];
  return {
    ...content,
    about: change.pages
      .map(({ address }) => address)
      .slice(0, 3)
      .join(', '),
    // What the reading itself says takes the place of counts of one.
    parts: content.parts.map((part) =>
      part.key === 'changes'
        ? { ...part, sentences: said }
        : part.key === 'traffic'
          ? { ...part, sentences: [], tables: [readingTable(reading)] }
          : part,
    ),
  };
}

/** The figures of a reading as its screen has them: both of its spans, what the control did, and the net effects. */
function readingTable({ spans, compared, metrics, net, marks, yardstick }: Reading): ReportTable {
  const before = compared?.before ?? spans.before;
  const after = compared?.after ?? spans.after;
  const moved = (metric: Metric) => {
    const ratio = yardstick && yardstick[`${metric}Ratio`];
    return cell(ratio === null ? ABSENT : percentChange(ratio), ratio);
  };
  return {
    title: 'Before and after',
    columns: columns(
      ['measure'],
      [`before, ${spanText(before)}`, true],
      [`after, ${spanText(after)}`, true],
      ['difference', true],
      ['control pages', true],
      ['net effect', true],
      ['likely range', true],
      ['verdict'],
    ),
    rows: METRICS.map((metric) => {
      const { before: was, after: is } = metrics[metric];
      const difference = metric === 'position' ? metrics.position.placesGained : metrics[metric].difference;
      const effect = net?.[metric] ?? null;
      const mark = marks[metric];
      return [
        cell(MEASURE_NAMES[metric], metric),
        cell(metricValue(metric, was), was),
        cell(metricValue(metric, is), is),
        cell(metricDifference(metric, difference), difference),
        moved(metric),
        cell(netText(net, metric), effect && ('ratio' in effect ? effect.ratio : effect.placesGained)),
        cell(rangeText(net, metric), effect && `${effect.low} ${effect.high}`),
        cell(mark ? VERDICT_NAMES[mark] : ABSENT, mark),
      ];
    }),
  };
}
