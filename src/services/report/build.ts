import type { Report } from '../../core/model/report';
import {
  REPORT_PARTS,
  type ReportContent,
  type ReportPart,
  type ReportPartKey,
} from '../../core/model/reportContent';
import type { SiteContext } from '../site/siteContext';
import { type Work, type Said, type ReportTools } from './reportContext';
import { readingsOf, scopeOf } from './scope';
import { changesPart } from './parts/changes';
import { learned } from './parts/learned';
import { next } from './parts/next';
import { together } from './parts/together';
import { traffic } from './parts/traffic';
import { waiting } from './parts/waiting';
import { worth } from './parts/worth';

/** What a report says, as its figures stand now; null where the site has no figures. */
export function buildReport(
  context: SiteContext,
  tools: ReportTools,
  report: Omit<Report, 'id' | 'words' | 'ink' | 'logo'>,
): ReportContent | null {
  const { site, today, lastReadable } = context;
  if (!tools.engines.figures(site)) return null;
  const span = { firstDay: report.firstDay, lastDay: report.lastDay };
  const scope = scopeOf(context, tools, report, span);
  const work: Work = { context, tools, report, span, scope, ...readingsOf(context, tools, scope) };
  return {
    ...{ title: report.title, site: site.name, address: site.address, span, about: scope.about },
    ...{ readOn: today, figuresTo: lastReadable },
    parts: report.parts.map((key): ReportPart => {
      const { sentences, tables = [], strips = null } = PARTS[key](work);
      return { key, heading: REPORT_PARTS[key], sentences, tables, strips };
    }),
  };
}

const PARTS: Readonly<Record<ReportPartKey, (work: Work) => Said>> = {
  traffic,
  changes: changesPart,
  together,
  worth,
  learned,
  waiting,
  next,
  glossary: () => ({
    sentences: [
      'Net: what a change did beyond what would have happened anyway, by pages that nobody touched or by the half of a round that waited.',
      'Range: holds the truth nine times in ten; one that includes no effect cannot tell.',
      'Appeal: clicks over those usual at the same searches and positions; 1 is as usual.',
      'Lifted, dropped, held (within 10% of level), unclear (could be either), waiting (its days are not over).',
      'Position 1 is best, so a gain of places is a smaller number.',
    ],
  }),
};
