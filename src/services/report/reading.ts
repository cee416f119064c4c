import type { Change } from '../../core/model/change';
import type { ReportContent } from '../../core/report/model';
import { readingSentence, plainSentence } from '../../core/reading/sentence';
import { readChange } from '../readChange';
import type { SiteContext } from '../siteContext';
import { buildReport } from './build';
import type { ReportTools } from './work';

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
    parts: content.parts.map((part) => (part.key === 'changes' ? { ...part, sentences: said } : part)),
  };
}
