import { pagePath } from '../core/address/address';
import { addDays, isoDay, type Day } from '../core/calendar/day';
import { inSpan, spanLength, type Span } from '../core/calendar/span';
import { findingsOn } from '../core/markup/findings';
import type { PageEvidence } from '../core/model/evidence';
import { appealPosterior, gammaMean, gammaQuantile, type Chosen } from '../core/openings/appealPosterior';
import { MONTH_DAYS, RANGE_HIGH, RANGE_LOW, type Gain, type Opening } from '../core/openings/model';
import { querySpread } from '../core/openings/querySpread';
import { pageWords, saidOn } from '../core/openings/said';
import type { NamedOpening } from '../core/openings/named';
import { openingSentence, type Named } from '../core/openings/sentence';
import { sharedQuery, type PageOnQuery } from '../core/openings/shared';
import { siteAppeal, type PairFigures, type SiteAppeal } from '../core/openings/site';
import { gainOfAppeal } from '../core/openings/tooLittle';
import { unlinkedPages } from '../core/openings/unlinked';
import { lackingConversions } from '../core/openings/visited';
import { gainOfPosition, rulesOfThumb, targetPosition } from '../core/openings/withinReach';
import { wordsOf } from '../core/words/find';
import { queryDaysIn } from '../store/figures/days';
import { landingTotals, type LandingTotals } from '../store/figures/landing';
import { sumIn, type Pairs } from '../store/figures/pairs';
import { latestEvidence, pagesTitled } from '../store/evidence/snapshots';
import type { PageTraits } from '../core/model/traits';
import { pageTraits, queryTraits } from '../store/traits/traits';
import { passedOpenings } from '../store/traits/passed';
import type { Engines } from './engines';
import { brandTest, type Lists } from './lists';
import type { Shifts } from './shifts';
import type { SiteContext } from './siteContext';
import type { SiteFigures } from './siteFigures';
import { spansOf } from './spans';

export type Openings = {
  readonly openings: readonly NamedOpening[];
  readonly span: Span;
  /** The appeal that counts as usual, and how many pages it was learned from. */
  readonly usual: number;
  readonly pages: number;
};

/** Openings that would bring less a month are not worth a line. */
const LEAST_CLICKS = 1;
/** Searches that are looked at for pages that take turns, the most seen. */
const MOST_SHARED = 150;
/** Searches within reach that are estimated, those that would bring most at the usual appeal. */
const MOST_REACHABLE = 1500;
/** A search has to be seen so often to be missed on a page; so many are told of one page. */
const [LEAST_SEEN, MOST_UNSAID] = [20, 3];
/** A snapshot older than this says little of the page as it is. */
const OLD_DAYS = 120;

/** What openings are found with: each keeps what it added up. */
export type Finders = { readonly engines: Engines; readonly lists: Lists; readonly shifts: Shifts };

/** Where work is likely to pay on a site, the best first; null where it has no figures. */
export function findOpenings(
  context: SiteContext,
  { engines, lists, shifts }: Finders,
  span: Span,
): Openings | null {
  const { db, site } = context;
  const figures = engines.figures(site);
  if (!figures) return null;
  const pairs = lists.pairsOf(context, figures, { spans: { now: span, was: null }, device: 0 });
  const traits = pageTraits(db, site.id);
  const texts = lists.textsOf(context);
  const brands = brandTest(site, queryTraits(db, site.id), texts);
  const work: Work = {
    ...{ context, figures, span, traits, texts },
    months: spanLength(span) / MONTH_DAYS,
    pairs: pairFiguresOf(pairs, brands),
    landing: landingTotals(
      db,
      figures.series.map(({ id }) => id),
      span,
    ),
    evidence: latestEvidence(db, site.id),
    busy: busyPages(context),
    appeal: siteAppeal([], { rest: new Map(), days: [] }, figures.curve),
  };
  const appeal = siteAppeal(
    work.pairs,
    { rest: restOf(work, pairs), days: daysOf(work, pairs) },
    figures.curve,
  );
  const all: Work = { ...work, appeal };
  const found = [
    ...tooLittle(all),
    ...reachable(all),
    ...unsaid(all),
    ...shared(all),
    ...slipped(all, shifts),
    ...unlinked(all),
    ...outOfOrder(all),
    ...notBought(all),
  ];
  const passed = passedOpenings(db, site.id);
  const named = found
    .filter(
      ({ opening: { pageId, gain } }) =>
        !isSunk(traits, pageId) && (gain === null || gain.clicks >= LEAST_CLICKS),
    )
    .map((one) => inWords(all, one))
    .filter((one) => !isPassed(passed.get(one.key), one.gain?.clicks ?? 0));
  const weight = ({ page, gain, conversions }: NamedOpening) =>
    (gain?.clicks ?? (conversions === null ? 0 : conversions * 10)) *
    (traits.get(page?.id ?? -1)?.weight ?? 1);
  const seen = ({ figures: { impressions = 0, sessions = 0 } }: NamedOpening) => impressions + sessions;
  return {
    openings: named.sort((a, b) => weight(b) - weight(a) || seen(b) - seen(a) || (a.key < b.key ? -1 : 1)),
    span,
    usual: appeal.level,
    pages: appeal.byPage.size,
  };
}

type Work = {
  readonly context: SiteContext;
  readonly figures: SiteFigures;
  readonly span: Span;
  readonly months: number;
  readonly pairs: readonly PairFigures[];
  readonly traits: ReadonlyMap<number, PageTraits>;
  readonly texts: ReadonlyMap<number, string>;
  readonly landing: ReadonlyMap<number, LandingTotals>;
  readonly evidence: ReadonlyMap<number, { readonly evidence: PageEvidence; readonly lastDay: Day }>;
  readonly appeal: SiteAppeal;
  readonly busy: ReadonlyMap<number, NonNullable<NamedOpening['busy']>>;
};

type Found = { readonly opening: Opening; readonly named?: Named };

function pairFiguresOf(pairs: Pairs, brands: (query: number) => boolean): PairFigures[] {
  const { now } = pairs;
  const found: PairFigures[] = [];
  for (let row = 0; row < pairs.rows; row++) {
    if (now.impressions[row]! === 0) continue;
    const weight = now.positionWeight[row]!;
    found.push({
      ...{ pageId: pairs.page[row]!, queryId: pairs.query[row]!, brand: brands(pairs.query[row]!) },
      ...{ clicks: now.clicks[row]!, impressions: now.impressions[row]!, expected: now.expected[row]! },
      position: weight > 0 ? now.positionSum[row]! / weight : null,
    });
  }
  return found;
}

/** What of each page is in none of its rows by query. */
function restOf({ figures, pairs, span }: Work, { showings }: Pairs): Map<number, Chosen> {
  const seen = new Map<number, { clicks: number; expected: number }>();
  for (const { pageId, clicks, expected } of pairs) {
    const sum = seen.get(pageId) ?? { clicks: 0, expected: 0 };
    seen.set(pageId, sum);
    sum.clicks += clicks;
    sum.expected += expected;
  }
  return new Map(
    figures.series.map((page) => {
      const known = seen.get(page.id) ?? { clicks: 0, expected: 0 };
      const clicks = Math.max(0, sumIn(page.clicks, page.firstDay, span) - known.clicks);
      return [page.id, { clicks, expected: Math.max(0, (showings.get(page.id)?.now ?? 0) - known.expected) }];
    }),
  );
}

/** What each page brought day by day. */
function daysOf({ figures, span }: Work, { showings }: Pairs): Chosen[][] {
  return figures.series.map((page) => {
    const shown = showings.get(page.id);
    const days: Chosen[] = [];
    for (let day = span.firstDay; day <= span.lastDay; day++) {
      const expected = shown?.days[day - shown.firstDay] ?? 0;
      if (expected > 0) days.push({ clicks: page.clicks[day - page.firstDay] ?? 0, expected });
    }
    return days;
  });
}

const isSunk = (traits: ReadonlyMap<number, PageTraits>, pageId: number | null) =>
  pageId !== null && traits.get(pageId)?.sink === true;

/** What was found not worth it comes back once it would bring half as much again, or more. */
const COMES_BACK = 1.5;

function isPassed(then: { readonly clicksAMonth: number } | undefined, clicks: number): boolean {
  return then !== undefined && clicks <= Math.max(COMES_BACK * then.clicksAMonth, then.clicksAMonth + 5);
}

function tooLittle({ appeal, months }: Work): Found[] {
  return [...appeal.byPage].map(([pageId, page]) => {
    const posterior = gammaMean(appealPosterior(appeal.prior, page));
    return {
      opening: {
        ...{ kind: 'chosen-too-little', pageId, queryId: null },
        gain: gainOfAppeal(appeal.prior, page, months, appeal.level),
        figures: {
          ...{
            clicks: page.clicks,
            expected: page.expected * appeal.level,
            appeal: posterior,
            usual: appeal.level,
          },
        },
      },
    };
  });
}

function gainAt({ appeal, months }: Work, spread: number, pair: PairFigures, target: number): Gain {
  const page = appeal.byPage.get(pair.pageId) ?? { clicks: 0, expected: 0 };
  return gainOfPosition(
    { impressions: pair.impressions, position: pair.position! },
    target,
    appeal.curve,
    { prior: appeal.prior, page, own: pair, spread },
    months,
  );
}

function reachable(work: Work): Found[] {
  const spread = querySpread(work.pairs, work.appeal);
  // Ranges take time, so of a large site only those that would bring most are looked at closely.
  const { curve } = work.appeal;
  const candidates = work.pairs.flatMap((pair) => {
    const target = pair.brand || pair.position === null ? null : targetPosition(pair.position);
    if (target === null) return [];
    const most = (pair.impressions * (curve(target) - curve(pair.position!))) / work.months;
    return most < LEAST_CLICKS / 4 ? [] : [{ pair, target, most }];
  });
  candidates.sort((a, b) => b.most - a.most);
  return candidates.slice(0, MOST_REACHABLE).flatMap(({ pair, target }): Found[] => {
    const { clicks, impressions, position } = pair;
    return [
      {
        opening: {
          ...{ kind: 'within-reach', pageId: pair.pageId, queryId: pair.queryId },
          gain: gainAt(work, spread, pair, target),
          figures: {
            ...{ clicks, impressions, position: position!, target },
            ...rulesOfThumb({ clicks, impressions, position: position! }),
          },
        },
      },
    ];
  });
}

function unsaid(work: Work): Found[] {
  const spread = querySpread(work.pairs, work.appeal);
  const byPage = new Map<number, PairFigures[]>();
  for (const pair of work.pairs) {
    if (pair.brand || pair.impressions < LEAST_SEEN * work.months || pair.position === null) continue;
    const known = byPage.get(pair.pageId);
    if (known) known.push(pair);
    else byPage.set(pair.pageId, [pair]);
  }
  return [...byPage].flatMap(([pageId, own]) => {
    const snapshot = work.evidence.get(pageId);
    if (!snapshot) return [];
    const words = pageWords(snapshot.evidence);
    const missed = own
      .sort((a, b) => b.impressions - a.impressions)
      .map((pair) => ({ pair, said: saidOn(words, work.texts.get(pair.queryId) ?? '') }))
      .filter(({ said }) => said.where === 'parts' || said.where === 'nowhere')
      .filter(({ said }) => said.missing.length > 0);
    return missed.slice(0, MOST_UNSAID).map(({ pair, said }): Found => {
      const target = targetPosition(pair.position!);
      return {
        opening: {
          ...{ kind: 'unsaid', pageId, queryId: pair.queryId },
          gain: target === null ? null : gainAt(work, spread, pair, target),
          figures: { clicks: pair.clicks, impressions: pair.impressions, position: pair.position! },
        },
        named: { said },
      };
    });
  });
}

function shared(work: Work): Found[] {
  const { context, pairs, texts, span, appeal, months } = work;
  const byQuery = new Map<number, PairFigures[]>();
  for (const pair of pairs) {
    if (pair.brand || isHome(work, pair.pageId)) continue;
    const known = byQuery.get(pair.queryId);
    if (known) known.push(pair);
    else byQuery.set(pair.queryId, [pair]);
  }
  const total = (list: readonly PairFigures[]) => list.reduce((sum, { impressions }) => sum + impressions, 0);
  const candidates = [...byQuery.values()]
    .filter((list) => {
      const sum = total(list);
      return list.filter(({ impressions }) => impressions >= 0.15 * sum).length > 1;
    })
    .sort((a, b) => total(b) - total(a))
    .slice(0, MOST_SHARED);
  return candidates.flatMap((list): Found[] => {
    const text = texts.get(list[0]!.queryId) ?? '';
    const { db, site } = context;
    const pages = list.map(({ pageId, impressions, clicks, position }): PageOnQuery => ({
      ...{ pageId, impressions, clicks, position },
      days: queryDaysIn(db, site.id, text, [pageId], span).map((one) => ({
        ...{ day: one.day, impressions: one.impressions },
        position: one.positionWeight > 0 ? one.positionSum / one.positionWeight : Infinity,
      })),
    }));
    const found = sharedQuery(pages);
    if (!found) return [];
    const impressions = total(list);
    const best = [...found.pages].sort((a, b) => a.position - b.position)[0]!;
    const clicks = list.reduce((sum, one) => sum + one.clicks, 0);
    const known = appealPosterior(appeal.prior, appeal.byPage.get(best.pageId) ?? { clicks: 0, expected: 0 });
    const at = (a: number) => Math.max(0, impressions * appeal.curve(best.position) * a - clicks) / months;
    return [
      {
        opening: {
          ...{ kind: 'shared', pageId: best.pageId, queryId: list[0]!.queryId },
          gain: {
            clicks: at(gammaMean(known)),
            low: at(gammaQuantile(known, RANGE_LOW)),
            high: at(gammaQuantile(known, RANGE_HIGH)),
          },
          figures: {
            clicks,
            impressions,
            position: best.position,
            turns: found.turns,
            together: found.together,
          },
        },
        named: { pages: found.pages.map((page) => ({ ...page, path: pathOf(work, page.pageId) })) },
      },
    ];
  });
}

/** A slip is an opening for so many days. */
const SLIPPED_DAYS = 120;

function slipped({ context, figures, span, months }: Work, shifts: Shifts): Found[] {
  const clicksOf = new Map(figures.series.map((page) => [page.id, sumIn(page.clicks, page.firstDay, span)]));
  return [...shifts.slipped(context, addDays(span.lastDay, -SLIPPED_DAYS))].map(([pageId, shift]): Found => {
    const clicks = clicksOf.get(pageId) ?? 0;
    // What it brings now, at the level before.
    const back = (ratio: number) => (clicks / months) * Math.max(0, 1 / ratio - 1);
    return {
      opening: {
        ...{ kind: 'slipped', pageId, queryId: null },
        gain: { clicks: back(shift.ratio), low: back(shift.high), high: back(shift.low) },
        figures: {
          clicks,
          ratio: shift.ratio,
          day: shift.day,
          firstDay: shift.firstDay,
          lastDay: shift.lastDay,
        },
      },
      named: { day: shift.day },
    };
  });
}

function unlinked(work: Work): Found[] {
  const { figures, evidence, span } = work;
  const pages = figures.pages([...evidence.keys()]);
  const idOf = new Map(pages.map(({ id, address }) => [address, id]));
  const named = new Set(wordsOf(work.context.site.name));
  const texts = pages.map(({ id }) => {
    const { title, text, links, headings } = evidence.get(id)!.evidence;
    const heading = headings.find(({ level }) => level === 1)?.text ?? '';
    return {
      ...{ pageId: id, title: title ?? heading, text },
      linksTo: new Set(links.flatMap((link) => idOf.get(link) ?? [])),
    };
  });
  const impressionsOf = new Map(
    figures.series.map((page) => [page.id, sumIn(page.impressions, page.firstDay, span)]),
  );
  const targets = [...impressionsOf]
    .filter(([id]) => evidence.has(id))
    .sort((a, b) => b[1] - a[1])
    .slice(0, MOST_TARGETS)
    .map(([id]) => id);
  return [...unlinkedPages(texts, targets)].flatMap(([pageId, { linkedFrom, candidates }]): Found[] => {
    if (candidates.length === 0 || linkedFrom > MOST_LINKED || isHome(work, pageId)) return [];
    const shown = candidates.slice(0, 2);
    return [
      {
        opening: {
          ...{ kind: 'unlinked', pageId, queryId: null, gain: null },
          figures: { linkedFrom, candidates: candidates.length, impressions: impressionsOf.get(pageId) ?? 0 },
        },
        named: {
          pages: shown.map(({ fromId }) => ({ path: pathOf(work, fromId) })),
          words: [...new Set(shown.flatMap(({ words }) => words))]
            .filter((word) => !named.has(word))
            .slice(0, 3),
        },
      },
    ];
  });
}

/** Pages for which links are sought, the most seen. */
const MOST_TARGETS = 100;
/** A page that so many others link to is linked well enough. */
const MOST_LINKED = 5;

function outOfOrder(work: Work): Found[] {
  const { context, evidence, figures, span } = work;
  const { db, site, today } = context;
  const year = Number(isoDay(today).slice(0, 4));
  const shown = new Map(
    figures.series.map((page) => [page.id, sumIn(page.impressions, page.firstDay, span)]),
  );
  return [...evidence].flatMap(([pageId, { evidence: page, lastDay }]): Found[] => {
    const sameTitle = page.title
      ? pagesTitled(db, site.id, page.title, pageId).map(({ address }) => pagePath(address))
      : [];
    const findings = findingsOn(page, { year, sameTitle }).map(({ message }) => message);
    const age = today - lastDay;
    if (age > OLD_DAYS) findings.push(`It was last fetched ${age} days ago.`);
    const impressions = shown.get(pageId) ?? 0;
    if (findings.length === 0 || impressions === 0) return [];
    return [
      {
        opening: {
          ...{ kind: 'out-of-order', pageId, queryId: null, gain: null },
          figures: { findings: findings.length, impressions },
        },
        named: { findings },
      },
    ];
  });
}

/** A group of pages has a usual share of its own where so many conversions tell it; guides are not bought from like a shop. */
const FEWEST_CONVERSIONS = 20;

function notBought({ landing, months, figures }: Work): Found[] {
  const ids = [...landing.keys()];
  const { of, names } = figures.groupsOf(ids);
  const sums = Array.from({ length: names.length + 1 }, () => ({ sessions: 0, conversions: 0 }));
  ids.forEach((id, i) => {
    const { sessions, conversions } = landing.get(id)!;
    if (conversions === null) return;
    for (const group of [of[i]!, names.length]) {
      sums[group]!.sessions += sessions;
      sums[group]!.conversions += conversions;
    }
  });
  const whole = sums[names.length]!;
  if (whole.conversions === 0) return [];
  return ids.flatMap((pageId, i): Found[] => {
    const one = landing.get(pageId)!;
    if (one.conversions === null) return [];
    const group = sums[of[i]!]!;
    const { conversions, sessions } = group.conversions >= FEWEST_CONVERSIONS ? group : whole;
    const usual = conversions / sessions;
    const visits = { sessions: one.sessions, conversions: one.conversions };
    const lacking = lackingConversions(visits, usual);
    if (!lacking || lacking.conversions / months < 0.5) return [];
    return [
      {
        opening: {
          ...{ kind: 'visited-not-bought', pageId, queryId: null, gain: null },
          figures: { ...visits, usual: usual * one.sessions, lacking: lacking.conversions / months },
        },
      },
    ];
  });
}

const isHome = ({ figures }: Work, pageId: number) => {
  const [page] = figures.pages([pageId]);
  return page !== undefined && pagePath(page.address) === '/';
};

function pathOf({ figures }: Work, pageId: number): string {
  const [page] = figures.pages([pageId]);
  return page ? pagePath(page.address) : '';
}

function inWords(work: Work, { opening, named }: Found): NamedOpening {
  const { context, figures, texts, landing } = work;
  const { pageId, queryId, ...rest } = opening;
  const [page] = pageId === null ? [] : figures.pages([pageId]);
  const { worthOfClick, worthOfConversion } = context.site;
  const visits = pageId === null ? undefined : landing.get(pageId);
  const rate =
    visits && visits.conversions !== null && visits.sessions > 0
      ? visits.conversions / visits.sessions
      : null;
  const conversions =
    opening.figures['lacking'] ?? (rate === null || !opening.gain ? null : opening.gain.clicks * rate);
  const worth =
    conversions !== null && worthOfConversion !== null
      ? conversions * worthOfConversion
      : worthOfClick !== null && opening.gain
        ? opening.gain.clicks * worthOfClick
        : null;
  return {
    ...rest,
    key: [opening.kind, page?.address ?? '', queryId === null ? '' : texts.get(queryId)].join('|'),
    page: page ?? null,
    query: queryId === null ? null : { id: queryId, text: texts.get(queryId) ?? '' },
    sentence: openingSentence(opening, named),
    ...{ conversions, worth },
    busy: pageId === null ? null : (work.busy.get(pageId) ?? null),
  };
}

/** The changes whose days are not over yet, by page; of several the newest. */
function busyPages({
  site,
  made,
  lastReadable,
}: SiteContext): Map<number, NonNullable<NamedOpening['busy']>> {
  const busy = new Map<number, NonNullable<NamedOpening['busy']>>();
  if (lastReadable === null) return busy;
  for (const change of made) {
    const { after } = spansOf(site, change);
    const open = { firstDay: change.day, lastDay: after.lastDay };
    if (!inSpan(lastReadable, open) || lastReadable >= after.lastDay) continue;
    for (const { id } of change.pages)
      if (!busy.has(id)) busy.set(id, { changeId: change.id, until: after.lastDay });
  }
  return busy;
}
