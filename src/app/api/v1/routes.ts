import type { Operation } from './doorway';
import * as change from './changes/[changeId]/route';
import * as decision from './changes/[changeId]/decision/route';
import * as reading from './changes/[changeId]/reading/route';
import * as working from './changes/[changeId]/working/route';
import * as steps from './changes/[changeId]/steps/route';
import * as event from './events/[eventId]/route';
import * as feed from './feeds/[feedId]/route';
import * as feedFetch from './feeds/[feedId]/fetch/route';
import * as oneImport from './imports/[importId]/route';
import * as undo from './imports/[importId]/undo/route';
import * as health from './health/route';
import * as sites from './sites/route';
import * as siteImport from './sites/import/route';
import * as oneSite from './sites/[siteId]/route';
import * as siteExport from './sites/[siteId]/export/route';
import * as changes from './sites/[siteId]/changes/route';
import * as ledgerSheet from './sites/[siteId]/changes/import/route';
import * as events from './sites/[siteId]/events/route';
import * as eventsCalendar from './sites/[siteId]/events.ics/route';
import * as feeds from './sites/[siteId]/feeds/route';
import * as imports from './sites/[siteId]/imports/route';
import * as siteComparison from './sites/[siteId]/comparison/route';
import * as groups from './sites/[siteId]/groups/route';
import * as sitePages from './sites/[siteId]/pages/route';
import * as siteQueries from './sites/[siteId]/queries/route';
import * as pagesOfQuery from './sites/[siteId]/queries/pages/route';
import * as onePage from './pages/[pageId]/route';
import * as queriesOfPage from './pages/[pageId]/queries/route';
import * as oneQuery from './queries/[queryId]/route';
import * as openings from './sites/[siteId]/openings/route';
import * as sheet from './sites/[siteId]/sheet/route';
import * as shifts from './sites/[siteId]/shifts/route';
import * as resultPages from './sites/[siteId]/result-pages/route';
import * as onePageOfResults from './result-pages/[resultPageId]/route';
import * as wording from './result-pages/[resultPageId]/wording/route';
import * as resultsCompared from './result-pages/[resultPageId]/comparison/route';
import * as rounds from './sites/[siteId]/rounds/route';
import * as roundPlan from './sites/[siteId]/rounds/plan/route';
import * as oneRound from './rounds/[roundId]/route';
import * as roundMade from './rounds/[roundId]/made/route';
import * as roundDecision from './rounds/[roundId]/decision/route';
import * as roundReading from './rounds/[roundId]/reading/route';
import * as reports from './sites/[siteId]/reports/route';
import * as oneReport from './reports/[reportId]/route';
import * as reportIssues from './reports/[reportId]/issues/route';
import * as scorebook from './sites/[siteId]/scorebook/route';
import * as readings from './sites/[siteId]/readings/route';
import * as reviewsCalendar from './sites/[siteId]/reviews.ics/route';
import * as totals from './sites/[siteId]/totals/route';
import * as snapshots from './sites/[siteId]/snapshots/route';
import * as unlogged from './sites/[siteId]/unlogged/route';
import * as snapshot from './snapshots/[snapshotId]/route';
import * as comparison from './snapshots/[snapshotId]/comparison/route';
import * as passingOver from './snapshots/[snapshotId]/passing-over/route';

type Route = Readonly<Record<string, unknown>>;

/** The routes of the interface by their paths, in the order in which they are described. */
const ROUTES: Readonly<Record<string, Route>> = {
  '/health': health,
  '/sites': sites,
  '/sites/import': siteImport,
  '/sites/{siteId}': oneSite,
  '/sites/{siteId}/export': siteExport,
  '/sites/{siteId}/imports': imports,
  '/imports/{importId}': oneImport,
  '/imports/{importId}/undo': undo,
  '/sites/{siteId}/feeds': feeds,
  '/feeds/{feedId}': feed,
  '/feeds/{feedId}/fetch': feedFetch,
  '/sites/{siteId}/changes': changes,
  '/sites/{siteId}/changes/import': ledgerSheet,
  '/changes/{changeId}': change,
  '/changes/{changeId}/steps': steps,
  '/changes/{changeId}/decision': decision,
  '/changes/{changeId}/reading': reading,
  '/changes/{changeId}/working': working,
  '/sites/{siteId}/rounds': rounds,
  '/sites/{siteId}/rounds/plan': roundPlan,
  '/rounds/{roundId}': oneRound,
  '/rounds/{roundId}/made': roundMade,
  '/rounds/{roundId}/decision': roundDecision,
  '/rounds/{roundId}/reading': roundReading,
  '/sites/{siteId}/scorebook': scorebook,
  '/sites/{siteId}/reports': reports,
  '/reports/{reportId}': oneReport,
  '/reports/{reportId}/issues': reportIssues,
  '/sites/{siteId}/readings': readings,
  '/sites/{siteId}/comparison': siteComparison,
  '/sites/{siteId}/groups': groups,
  '/sites/{siteId}/totals': totals,
  '/sites/{siteId}/pages': sitePages,
  '/pages/{pageId}': onePage,
  '/pages/{pageId}/queries': queriesOfPage,
  '/sites/{siteId}/queries': siteQueries,
  '/sites/{siteId}/queries/pages': pagesOfQuery,
  '/queries/{queryId}': oneQuery,
  '/sites/{siteId}/openings': openings,
  '/sites/{siteId}/shifts': shifts,
  '/sites/{siteId}/sheet': sheet,
  '/sites/{siteId}/result-pages': resultPages,
  '/result-pages/{resultPageId}': onePageOfResults,
  '/result-pages/{resultPageId}/wording': wording,
  '/result-pages/{resultPageId}/comparison': resultsCompared,
  '/sites/{siteId}/unlogged': unlogged,
  '/sites/{siteId}/snapshots': snapshots,
  '/snapshots/{snapshotId}': snapshot,
  '/snapshots/{snapshotId}/comparison': comparison,
  '/snapshots/{snapshotId}/passing-over': passingOver,
  '/sites/{siteId}/reviews.ics': reviewsCalendar,
  '/sites/{siteId}/events.ics': eventsCalendar,
  '/sites/{siteId}/events': events,
  '/events/{eventId}': event,
};

const METHODS = ['GET', 'POST', 'PUT', 'PATCH', 'DELETE'] as const;

/** What each path answers to: its operations by method. */
export function operationsByPath(): [path: string, operations: [method: string, operation: Operation][]][] {
  return Object.entries(ROUTES).map(([path, route]) => [
    path,
    METHODS.flatMap((method) => (Object.hasOwn(route, method) ? [[method, route[method] as Operation]] : [])),
  ]);
}
