import { LRUCache } from 'lru-cache';
import { pagePath } from '../../core/address/address';
import { addDays, type Day } from '../../core/calendar/day';
import type { Span } from '../../core/calendar/span';
import type { PageRef } from '../../core/model/change';
import { concerns } from '../../core/model/event';
import {
  expectedOfOthers,
  levelShifts,
  sharedMove,
  usualWander,
  type LevelShift,
  type NetDays,
} from '../../core/shifts/levelShifts';
import type { Near, ShiftSeen } from '../../core/shifts/seen';
import { siteShifts } from '../../core/shifts/siteShifts';
import { queryDaysIn } from '../../store/figures/days';
import { ALWAYS } from '../../store/figures/layers';
import { sightingsOf } from '../../store/evidence/sightings';
import { unloggedOn } from '../../store/evidence/snapshots';
import type { Engines } from '../site/engines';
import type { QueryPages } from './queryPages';
import type { SiteContext } from '../site/siteContext';
import { figuresStamp } from '../../store/figures/figuresStamp';
import type { SiteFigures } from '../site/siteFigures';
import { inTurns } from '../site/turns';
import { resultsEventsOf } from '../wording/resultPages';

/** The subject of shifts: a page, a query (on a page or all), several pages, or the whole site. */
export type ShiftQuery = {
  readonly pageIds: readonly number[] | null;
  readonly query: string | null;
};

/** Days around the range of a shift in which something counts as near. */
const NEAR_DAYS = 4;

/** The movement of a site's pages, by which each is held against the others. */
type Movement = {
  readonly firstDay: Day;
  readonly days: number;
  readonly ids: readonly number[];
  readonly clicks: readonly Float64Array[];
  readonly expected: readonly Float64Array[];
  readonly wander: number;
  /** What all pages together did, of a mean of 1. */
  readonly common: Float64Array;
};

/** Finds when levels shifted, and keeps what the pages of a site did. */
export class Shifts {
  private readonly kept = new LRUCache<number, { key: string; movement: Movement }>({ max: 4 });
  private readonly slips = new LRUCache<number, { key: string; found: ReadonlyMap<number, Slip> }>({
    max: 4,
  });

  constructor(
    private readonly engines: Engines,
    private readonly queryPages: QueryPages,
  ) {}

  /** Shifts of a subject, oldest first, with what happened near each; null without figures. */
  of(context: SiteContext, { pageIds, query }: ShiftQuery): ShiftSeen[] | null {
    const { site, lastReadable } = context;
    const figures = this.engines.figures(site);
    if (!figures || lastReadable === null) return null;
    const movement = this.movementOf(context, figures, lastReadable);
    const shownOn = query === null ? null : this.queryPages.of(context, query, pageIds);
    const found =
      pageIds === null && query === null
        ? siteShifts(movement.firstDay, siteClicks(movement, figures), updatesOf(context))
        : shiftsOf(daysOf(context, movement, shownOn ?? pageIds, query), movement.wander);
    return found.map((shift) => {
      const led = query === null || shownOn === null ? null : ledAround(context, query, shownOn, shift.day);
      // Of a query those pages count that were shown for it then.
      const concerned = led ? [...led.keys()] : pageIds;
      const pages = concerned === null ? [] : figures.pages(concerned);
      return {
        ...shift,
        near: [
          ...nearOf(context, shift, concerned, pages),
          ...(query === null ? [] : resultsNear(context, query, shift)),
          ...(led ? takenOver(led, shift.day, (id) => pages.find((page) => page.id === id)) : []),
        ],
      };
    });
  }

  /** The last shift of each page, by page, if it went down and wasn’t made up for since. */
  async slipped(
    context: SiteContext,
    since: Day,
    tell: (done: number, of: number) => void,
  ): Promise<ReadonlyMap<number, Slip>> {
    const { db, site, lastReadable } = context;
    const figures = this.engines.figures(site);
    if (!figures || lastReadable === null) return new Map();
    const key = `${figuresStamp(db, site.id)}/${lastReadable}/${since}`;
    const known = this.slips.get(site.id);
    if (known?.key === key) return known.found;
    const movement = this.movementOf(context, figures, lastReadable);
    const found = new Map<number, Slip>();
    for await (const [row, id] of inTurns([...movement.ids.entries()], tell)) {
      const days = netDays(movement, row);
      const last = levelShifts(days, movement.wander).at(-1);
      if (last && last.day >= since && last.high < 1 && isStep(last))
        found.set(id, { ...last, part: this.partMove(figures, movement, id, last) });
    }
    this.slips.set(site.id, { key, found });
    return found;
  }

  /** How the rest of a page’s part moved at a shift, if plainly the same way. */
  private partMove(
    figures: SiteFigures,
    movement: Movement,
    pageId: number,
    shift: LevelShift,
  ): PartMove | null {
    const name = figures.groups.nameOf.get(pageId) ?? '';
    if (name === '') return null;
    const inPart = movement.ids.map((id) => figures.groups.nameOf.get(id) === name);
    const rest = movement.clicks.filter((_, row) => !inPart[row]);
    const others = movement.clicks.filter((_, row) => inPart[row] && movement.ids[row] !== pageId);
    const moved = sharedMove(others, rest, shift.day - movement.firstDay);
    if (moved === null || Math.log(moved) / Math.log(shift.local) < SHARED) return null;
    return { name, ratio: moved };
  }

  /** Events noted about a shift of a page, the nearest first. */
  eventsNear(context: SiteContext, shift: LevelShift, pageId: number): string[] {
    const figures = this.engines.figures(context.site);
    return nearOf(context, shift, [pageId], figures?.pages([pageId]) ?? []).flatMap(({ kind, text }) =>
      kind === 'event' ? [text] : [],
    );
  }

  private movementOf({ db, site }: SiteContext, figures: SiteFigures, lastReadable: Day): Movement {
    const key = `${figuresStamp(db, site.id)}/${lastReadable}`;
    const known = this.kept.get(site.id);
    if (known?.key === key) return known.movement;
    const { firstDay, series } = figures;
    const days = Math.max(0, lastReadable - firstDay + 1);
    const clicks = series.map((one) => {
      const row = new Float64Array(days);
      const offset = one.firstDay - firstDay;
      for (let i = 0; i < one.clicks.length; i++)
        if (i + offset < days && i + offset >= 0) row[i + offset] = one.clicks[i]!;
      return row;
    });
    const expected = expectedOfOthers(clicks);
    const movement: Movement = {
      ...{ firstDay, days, clicks, expected, ids: series.map(({ id }) => id) },
      wander: usualWander(clicks.map((row, i) => ({ firstDay, clicks: row, expected: expected[i]! }))),
      common: commonOf(expected),
    };
    this.kept.set(site.id, { key, movement });
    return movement;
  }
}

/**
 * A part of the site that moved at the same time, with its factor relative to the rest of the site.
 */
export type PartMove = { readonly name: string; readonly ratio: number };
export type Slip = LevelShift & { readonly part: PartMove | null };

/** A part shares a page's shift where it moved by this share of it, on the log scale. */
const SHARED = 0.4;

/**
 * Share of a shift (log scale) that must come within weeks: seasons of a single page come slowly.
 */
const LEAST_AT_ONCE = 0.6;

function isStep({ ratio, local }: LevelShift): boolean {
  return Math.log(local) / Math.log(ratio) >= LEAST_AT_ONCE;
}

/**
 * Expected movement of a page outside the rows: the mean of the others’, each relative to its own
 * mean.
 */
function commonOf(expected: readonly Float64Array[]): Float64Array {
  const common = new Float64Array(expected[0]?.length ?? 0);
  let rows = 0;
  for (const row of expected) {
    const mean = row.reduce((a, b) => a + b, 0) / row.length;
    if (!(mean > 0)) continue;
    rows += 1;
    for (let i = 0; i < row.length; i++) common[i]! += row[i]! / mean;
  }
  return rows > 0 ? common.map((value) => value / rows) : common.fill(1);
}

const netDays = ({ firstDay, clicks, expected }: Movement, row: number): NetDays => ({
  ...{ firstDay, clicks: clicks[row]!, expected: expected[row]! },
});

function daysOf(
  { db, site }: SiteContext,
  movement: Movement,
  pageIds: readonly number[] | null,
  query: string | null,
): NetDays | null {
  const { firstDay, days, ids, clicks, common } = movement;
  if (query !== null) {
    const own = new Float64Array(days);
    for (const { day, clicks: clicked } of queryDaysIn(db, site.id, query, pageIds ?? ids, ALWAYS))
      if (day - firstDay < days) own[day - firstDay]! += clicked;
    return { firstDay, clicks: own, expected: common };
  }
  const rows =
    pageIds === null
      ? ids.map((_, row) => row)
      : pageIds.map((id) => ids.indexOf(id)).filter((row) => row >= 0);
  if (rows.length === 0) return null;
  if (rows.length === 1) return netDays(movement, rows[0]!);
  const own = new Float64Array(days);
  for (const row of rows) for (let i = 0; i < days; i++) own[i]! += clicks[row]![i]!;
  return { firstDay, clicks: own, expected: common };
}

const shiftsOf = (days: NetDays | null, wander: number): LevelShift[] =>
  days ? levelShifts(days, wander) : [];

/** Clicks of the whole site day by day; null on days without figures. */
function siteClicks({ firstDay, days, clicks }: Movement, { covered }: SiteFigures): (number | null)[] {
  return Array.from({ length: days }, (_, i) =>
    covered.has((firstDay + i) as Day) ? clicks.reduce((sum, row) => sum + row[i]!, 0) : null,
  );
}

/** Events that can move a whole site from one day to the next. */
const updatesOf = ({ events }: SiteContext) =>
  events.filter(({ kind, hidden, group }) => !hidden && group === null && kind === 'algorithm-update');

/** What is known to have happened near a shift: on the pages in question, or on the whole site. */
function nearOf(
  context: SiteContext,
  shift: LevelShift,
  pageIds: readonly number[] | null,
  pages: readonly PageRef[],
): Near[] {
  const { db, site, made, events } = context;
  const span: Span = {
    firstDay: addDays(shift.firstDay, -NEAR_DAYS),
    lastDay: addDays(shift.lastDay, NEAR_DAYS),
  };
  const within = (first: number, last = first) => first <= span.lastDay && last >= span.firstDay;
  const wanted = pageIds && new Set(pageIds);
  const figures: Near[] = [];
  for (const { id, day, title, pages } of made)
    if (within(day) && pages.some((page) => wanted === null || wanted.has(page.id)))
      figures.push({ kind: 'change', day, text: title, id });
  const addresses = pages.map(({ address }) => address);
  for (const event of events)
    if (
      !event.hidden &&
      within(event.firstDay, event.lastDay) &&
      (addresses.length === 0 || concerns(event, addresses))
    )
      figures.push({ kind: 'event', day: event.firstDay, text: event.name, id: event.id });
  if (wanted !== null && wanted.size <= MOST_LOOKED_AT) {
    for (const { page, from, to, differences } of unloggedOn(db, site))
      if (wanted.has(page.id) && within(from, to))
        figures.push({
          kind: 'difference',
          day: to,
          text: `${pagePath(page.address)} was changed and nobody logged it: ${differences.map(({ kind }) => kind).join(', ')}`,
          id: null,
        });
    for (const pageId of wanted)
      for (const { day, title } of sightingsOf(db, pageId))
        if (within(day))
          figures.push({ kind: 'title', day, text: `The results showed “${title}”`, id: null });
  }
  return figures.sort((a, b) => Math.abs(a.day - shift.day) - Math.abs(b.day - shift.day));
}

/** What happened on the result pages of a query around a shift. */
function resultsNear({ db, site }: SiteContext, query: string, shift: LevelShift): Near[] {
  return resultsEventsOf(db, site, [query])
    .filter(
      ({ from, to }) =>
        to >= addDays(shift.firstDay, -NEAR_DAYS) && from <= addDays(shift.lastDay, NEAR_DAYS),
    )
    .map(({ to, text }): Near => ({ kind: 'results', day: to, text, id: null }));
}

const MOST_LOOKED_AT = 50;
/** Days on either side of a shift over which it is asked which page led. */
const LED_DAYS = 28;

/** Impressions of each page that was shown for a query in the weeks before and after a day. */
type Led = ReadonlyMap<number, { readonly before: number; readonly after: number }>;

function ledAround({ db, site }: SiteContext, query: string, pageIds: readonly number[], day: Day): Led {
  const span = { firstDay: addDays(day, -LED_DAYS), lastDay: addDays(day, LED_DAYS - 1) };
  const led = new Map<number, { before: number; after: number }>();
  for (const id of pageIds)
    for (const one of queryDaysIn(db, site.id, query, [id], span)) {
      const sums = led.get(id) ?? { before: 0, after: 0 };
      led.set(id, sums);
      sums[one.day < day ? 'before' : 'after'] += one.impressions;
    }
  return led;
}

/** Whether another page led for a query after a day than before it. */
function takenOver(led: Led, day: Day, pageOf: (id: number) => PageRef | undefined): Near[] {
  const leader = (side: 'before' | 'after') =>
    [...led].reduce<[number, number]>(
      (best, [id, sums]) => (sums[side] > best[1] ? [id, sums[side]] : best),
      [-1, 0],
    )[0];
  const [before, after] = [pageOf(leader('before')), pageOf(leader('after'))];
  if (!before || !after || before.id === after.id) return [];
  const text = `${pagePath(after.address)} took over from ${pagePath(before.address)}`;
  return [{ kind: 'page', day, text, id: null }];
}
