import { addDays } from '../../core/calendar/day';
import { inSpan, type Span } from '../../core/calendar/span';
import { averagePosition } from '../../core/measures/totals';
import type { PageRef } from '../../core/model/change';
import type { Frozen } from '../../core/model/round';
import type { EffectEngine } from '../../core/effect/engine';
import { finalOn } from '../../core/reading/readable';
import type { Likeness } from '../../core/rounds/blocks';
import { bindsPages } from '../../core/rounds/state';
import { latestEvidence } from '../../store/evidence/snapshots';
import { queryTotalsIn } from '../../store/figures/queries';
import { listRounds } from '../../store/rounds/rounds';
import { WHOLE, type Engines } from '../site/engines';
import type { SiteContext } from '../site/siteContext';
import { spansOf } from '../reading/readingSpans';

/**
 * A candidate page for an experiment: what is known of it, what makes it alike, and why it couldn’t
 * show an effect.
 */
export type Candidate = {
  readonly page: PageRef;
  readonly likeness: Likeness;
  readonly frozen: Frozen;
  /** Null where it can contribute. */
  readonly problem: string | null;
  /** It is in another running round, and cannot be in two. */
  readonly taken: boolean;
};

/** Days of figures that are kept with a round. */
const FROZEN_DAYS = 28;
/** Fewer clicks in these days say nothing of a page. */
const FEWEST_CLICKS = 5;
const QUERIES_KEPT = 10;
/** Days over which a page's size is taken, and the last of them, in which it may have dipped. */
const [SIZE_DAYS, DIP_DAYS] = [56, 14];

/** The engine of a site with some pages in it; null where the site has no figures. */
export function engineWith(
  context: SiteContext,
  engines: Engines,
  ids: readonly number[],
): EffectEngine | null {
  const { site, known } = context;
  return known && engines.engine(site, known, WHOLE, ids);
}

/** What is known of pages that are thought of for a round, in their order. */
export function roundCandidates(
  context: SiteContext,
  engines: Engines,
  pages: readonly PageRef[],
): Candidate[] {
  const { db, site, lastReadable } = context;
  const evidence = latestEvidence(db, site.id);
  const engine = engineWith(
    context,
    engines,
    pages.map(({ id }) => id),
  );
  const groups = engine?.groupsAt(addDays(lastReadable!, 1)).groups ?? [];
  const groupOf = new Map(groups.flatMap((ids, group) => ids.map((id) => [id, group] as const)));
  const busy = busyPages(context);
  return pages.map((page): Candidate => {
    const known = evidence.get(page.id)?.evidence;
    const words = { title: known?.title ?? null, description: known?.description ?? null };
    const row = engine?.history.row(page.id);
    const taken = busy.taken.get(page.id);
    if (!engine || row === undefined || lastReadable === null) {
      return {
        page,
        likeness: { pageId: page.id, clicks: 0, group: -1, dip: 0 },
        frozen: {
          ...{ firstDay: null, lastDay: null, clicks: 0, impressions: 0, position: null, appeal: null },
          ...words,
          queries: [],
        },
        problem: taken ?? 'has no figures',
        taken: taken !== undefined,
      };
    }
    const upTo = (days: number): Span => ({
      firstDay: addDays(lastReadable, 1 - days),
      lastDay: lastReadable,
    });
    const clicksOver = (days: number) => engine.history.totals(row, upTo(days)).clicks;
    const span = upTo(FROZEN_DAYS);
    const totals = engine.history.totals(row, span);
    const expected = engine.history.expectedOf([page.id], span);
    const size = clicksOver(SIZE_DAYS);
    return {
      page,
      likeness: {
        ...{ pageId: page.id, clicks: size, group: groupOf.get(page.id) ?? -1 },
        dip: Math.log((clicksOver(DIP_DAYS) * (SIZE_DAYS / DIP_DAYS) + 1) / (size + 1)),
      },
      frozen: {
        ...span,
        ...{ clicks: totals.clicks, impressions: totals.impressions, position: averagePosition(totals) },
        appeal: expected ? totals.clicks / expected : null,
        ...words,
        queries: queriesOf(context, page.id, span),
      },
      problem:
        taken ??
        busy.reading.get(page.id) ??
        (totals.clicks < FEWEST_CLICKS
          ? `has only ${totals.clicks === 1 ? 'one click' : `${totals.clicks} clicks`} in ${FROZEN_DAYS} days`
          : null),
      taken: taken !== undefined,
    };
  });
}

function queriesOf({ db }: SiteContext, pageId: number, span: Span): Frozen['queries'] {
  const before = { firstDay: addDays(span.firstDay, -FROZEN_DAYS), lastDay: addDays(span.firstDay, -1) };
  return (queryTotalsIn(db, [pageId], before, span) ?? [])
    .flatMap(({ query, after }) => (after ? [{ query, after }] : []))
    .sort((a, b) => b.after.impressions - a.after.impressions)
    .slice(0, QUERIES_KEPT)
    .map(({ query, after }) => ({
      ...{ text: query, clicks: after.clicks, impressions: after.impressions },
      position: averagePosition(after),
    }));
}

/** Pages with a change still being read, and pages in running experiments, each with the reason. */
function busyPages(context: SiteContext): { reading: Map<number, string>; taken: Map<number, string> } {
  const { db, site, made, today } = context;
  const reading = new Map<number, string>();
  for (const change of made) {
    const spans = spansOf(site, change);
    const until = finalOn(spans.after.lastDay, site.provisionalDays);
    if (!inSpan(today, { firstDay: change.day, lastDay: until })) continue;
    for (const { id } of change.pages) reading.set(id, `is in the reading of “${change.title}”`);
  }
  const taken = new Map<number, string>();
  for (const round of listRounds(db, site.id)) {
    if (!bindsPages(round, today, site.provisionalDays)) continue;
    for (const { page } of round.pages) taken.set(page.id, `is in the round “${round.name}”`);
  }
  return { reading, taken };
}
