import type { Operation } from './doorway';
import * as change from './changes/[changeId]/operations';
import * as decision from './changes/[changeId]/decision/operations';
import * as reading from './changes/[changeId]/reading/operations';
import * as working from './changes/[changeId]/working/operations';
import * as steps from './changes/[changeId]/steps/operations';
import * as event from './events/[eventId]/operations';
import * as feed from './feeds/[feedId]/operations';
import * as feedFetch from './feeds/[feedId]/fetch/operations';
import * as oneImport from './imports/[importId]/operations';
import * as undo from './imports/[importId]/undo/operations';
import * as health from './health/operations';
import * as sites from './sites/operations';
import * as siteImport from './sites/import/operations';
import * as oneSite from './sites/[siteId]/operations';
import * as siteExport from './sites/[siteId]/export/operations';
import * as changes from './sites/[siteId]/changes/operations';
import * as ledgerSheet from './sites/[siteId]/changes/import/operations';
import * as events from './sites/[siteId]/events/operations';
import * as eventsCalendar from './sites/[siteId]/events.ics/operations';
import * as feeds from './sites/[siteId]/feeds/operations';
import * as imports from './sites/[siteId]/imports/operations';
import * as siteComparison from './sites/[siteId]/comparison/operations';
import * as groups from './sites/[siteId]/groups/operations';
import * as sitePages from './sites/[siteId]/pages/operations';
import * as siteQueries from './sites/[siteId]/queries/operations';
import * as pagesOfQuery from './sites/[siteId]/queries/pages/operations';
import * as onePage from './pages/[pageId]/operations';
import * as queriesOfPage from './pages/[pageId]/queries/operations';
import * as oneQuery from './queries/[queryId]/operations';
import * as openings from './sites/[siteId]/openings/operations';
import * as sheet from './sites/[siteId]/sheet/operations';
import * as shifts from './sites/[siteId]/shifts/operations';
import * as resultPages from './sites/[siteId]/result-pages/operations';
import * as onePageOfResults from './result-pages/[resultPageId]/operations';
import * as wording from './result-pages/[resultPageId]/wording/operations';
import * as resultsCompared from './result-pages/[resultPageId]/comparison/operations';
import * as rounds from './sites/[siteId]/rounds/operations';
import * as roundPlan from './sites/[siteId]/rounds/plan/operations';
import * as oneRound from './rounds/[roundId]/operations';
import * as roundMade from './rounds/[roundId]/made/operations';
import * as roundDecision from './rounds/[roundId]/decision/operations';
import * as roundReading from './rounds/[roundId]/reading/operations';
import * as reports from './sites/[siteId]/reports/operations';
import * as oneReport from './reports/[reportId]/operations';
import * as reportIssues from './reports/[reportId]/issues/operations';
import * as scorebook from './sites/[siteId]/scorebook/operations';
import * as readings from './sites/[siteId]/readings/operations';
import * as reviewsCalendar from './sites/[siteId]/reviews.ics/operations';
import * as totals from './sites/[siteId]/totals/operations';
import * as snapshots from './sites/[siteId]/snapshots/operations';
import * as unlogged from './sites/[siteId]/unlogged/operations';
import * as snapshot from './snapshots/[snapshotId]/operations';
import * as comparison from './snapshots/[snapshotId]/comparison/operations';
import * as passingOver from './snapshots/[snapshotId]/passing-over/operations';

export const METHODS = ['GET', 'POST', 'PUT', 'PATCH', 'DELETE'] as const;
type Route = Partial<Record<(typeof METHODS)[number], Operation>>;

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

/** What each path answers to: its operations by method. */
export function operationsByPath(): [path: string, operations: [method: string, operation: Operation][]][] {
  return Object.entries(ROUTES).map(([path, route]) => [
    path,
    METHODS.flatMap((method) => (route[method] ? [[method, route[method]]] : [])),
  ]);
}

type Found = { readonly route: Route; readonly path: Readonly<Record<string, string>> };

/**
 * The route of a path given by its segments, and what its parameters are. A path that is written out
 * comes before one with a parameter in the same place.
 *
 * @example findRoute(['changes', '12']) // { route, path: { changeId: '12' } }
 */
export function findRoute(segments: readonly string[]): Found | null {
  return (
    PATTERNS.filter(({ parts }) => parts.length === segments.length)
      .filter(({ parts }) => parts.every(({ name, text }, i) => name !== null || text === segments[i]))
      .map(({ route, parts }) => ({
        route,
        path: Object.fromEntries(
          parts.flatMap(({ name }, i) => (name === null ? [] : [[name, segments[i]!]])),
        ),
      }))
      .sort((a, b) => Object.keys(a.path).length - Object.keys(b.path).length)[0] ?? null
  );
}

const PATTERNS = Object.entries(ROUTES).map(([path, route]) => ({
  route,
  parts: path
    .slice(1)
    .split('/')
    .map((text) => ({ text, name: /^\{(\w+)\}$/.exec(text)?.[1] ?? null })),
}));
