import { inSpan, type Span } from '../../core/calendar/span';
import type { Report } from '../../core/model/report';
import { plural } from '../../core/words/format';
import { listRounds } from '../../store/rounds/rounds';
import { readChanges } from '../reading/readChanges';
import { readRound } from '../rounds/read';
import type { SiteContext } from '../site/siteContext';
import { type Scope, type ReportTools } from './reportContext';

export function scopeOf(
  { db, site, changes }: SiteContext,
  { engines }: ReportTools,
  { scope }: Pick<Report, 'scope'>,
  span: Span,
): Scope {
  const rounds = listRounds(db, site.id);
  const within = changes.filter(({ day }) => inSpan(day, span));
  const begun = rounds.filter(({ pages, day }) =>
    [day, ...pages.flatMap(({ steps }) => steps.made ?? [])].some((one) => inSpan(one, span)),
  );
  if (scope.kind === 'round') {
    const round = rounds.find(({ id }) => id === scope.roundId);
    const own = new Set(Object.values(round?.changes ?? {}));
    return {
      about: round ? `the round “${round.name}”` : 'a round that is no longer there',
      pageIds: round?.pages.map(({ page }) => page.id) ?? [],
      changes: changes.filter(({ id }) => own.has(id)),
      rounds: round ? [round] : [],
    };
  }
  if (scope.kind === 'changes') {
    const chosen = changes.filter(({ id }) => scope.changeIds.includes(id));
    return {
      about: plural(chosen.length, 'chosen change'),
      pageIds: [...new Set(chosen.flatMap(({ pages }) => pages.map(({ id }) => id)))],
      changes: chosen,
      rounds: [],
    };
  }
  if (scope.kind === 'site')
    return { about: 'the whole site', pageIds: null, changes: within, rounds: begun };
  const ids = engines.pageIds(site);
  const { of, names } = engines.figures(site)!.groupsOf(ids);
  const group = names.indexOf(scope.group);
  const inGroup = new Set(ids.filter((_, i) => of[i] === group));
  const touches = (pages: readonly { readonly id: number }[]) => pages.some(({ id }) => inGroup.has(id));
  return {
    about: `the part ${scope.group}`,
    pageIds: [...inGroup],
    changes: within.filter(({ pages }) => touches(pages)),
    rounds: begun.filter(({ pages }) => touches(pages.map(({ page }) => page))),
  };
}

export function readingsOf(context: SiteContext, { engines }: ReportTools, scope: Scope) {
  const wanted = new Set(scope.changes.map(({ id }) => id));
  const ofRounds = new Set(scope.rounds.flatMap(({ changes }) => Object.values(changes)));
  return {
    readings: readChanges(context, engines)
      .filter(({ change }) => wanted.has(change.id) && !ofRounds.has(change.id))
      .toSorted((a, b) => a.change.day - b.change.day || a.change.id - b.change.id),
    turns: scope.rounds.flatMap((round) => {
      const { first, second } = readRound(context, engines, round);
      return [first, second].flatMap((turn) => (turn ? [{ round, turn }] : []));
    }),
  };
}
