import { addDays, type Day } from '../../core/calendar/day';
import { inSpan, type Span } from '../../core/calendar/span';
import type { EffectEngine, RowEffects } from '../../core/effect/engine';
import type { Estimates } from '../../core/effect/effect';
import { Accumulator } from '../../core/measures/accumulator';
import { averagePosition } from '../../core/measures/totals';
import { pagesOf, type Half, type Round, type RoundPage } from '../../core/model/round';
import { finalOn } from '../../core/reading/readable';
import { earlyLevel } from '../../core/rounds/early';
import { drawAsRead } from '../../core/rounds/randomised';
import {
  byRoundMeasure,
  effectsAgainstSite,
  judgedOf,
  markOfRound,
  plainLook,
  turnDay,
  turnEffects,
  type HalfFigures,
  type HalfTotals,
  type LeftOut,
  type PageOfRound,
  type RoundEffects,
  type TurnDraw,
  type TurnReading,
  type TurnRow,
} from '../../core/rounds/reading';
import { ROUND_MEASURES } from '../../core/measures/registry';
import { Draws } from '../../core/statistics/draws';
import { unloggedOn } from '../../store/evidence/snapshots';
import type { Engines } from '../site/engines';
import type { SiteContext } from '../site/siteContext';
import { engineWith } from './candidates';
import { doubtsOf } from './doubts';

/**
 * The turns of an experiment that were made: of the first half, and of the second once it is made.
 */
export type RoundReading = {
  readonly first: TurnReading | null;
  readonly second: TurnReading | null;
};

/** A second turn says something of its own only so many days after the first. */
const LEAST_APART = 21;

/** Reads the turns of a round as far as they were made and can be read. */
export function readRound(context: SiteContext, engines: Engines, round: Round): RoundReading {
  const ids = round.pages.map(({ page }) => page.id);
  const engine = engineWith(context, engines, ids);
  if (!engine) return { first: null, second: null };
  const days = { first: turnDay(pagesOf(round, 'first')), second: turnDay(pagesOf(round, 'second')) };
  const known = (day: Day | null) => day !== null && (context.asOf === null || day <= context.asOf);
  const second =
    known(days.second) &&
    round.draw !== 'all' &&
    (days.first === null || Math.abs(days.second! - days.first) >= LEAST_APART);
  return {
    first: known(days.first)
      ? readTurn({ context, engine, round, half: 'first', day: days.first!, other: days.second })
      : null,
    second: second
      ? readTurn({ context, engine, round, half: 'second', day: days.second!, other: days.first })
      : null,
  };
}

/** A turn to read: the half changed on a day, and the day of the other half’s turn. */
type Turn = {
  readonly context: SiteContext;
  readonly engine: EffectEngine;
  readonly round: Round;
  readonly half: Half;
  readonly day: Day;
  readonly other: Day | null;
};

type Spans = { readonly before: Span; readonly after: Span; readonly whole: Span };

function readTurn(turn: Turn): TurnReading {
  const { context, engine, round, half, day, other } = turn;
  const { windowDays, settlingDays } = round;
  // Once the other half goes too there is nothing left to compare with.
  const until = other !== null && other > day ? Math.min(windowDays, other - day - settlingDays) : windowDays;
  const after = { firstDay: addDays(day, settlingDays), lastDay: addDays(day, settlingDays + until - 1) };
  const before = { firstDay: addDays(day, -windowDays), lastDay: addDays(day, -1) };
  const readable = Math.max(0, Math.min(until, context.lastReadable! - after.firstDay + 1));
  const complete = until > 0 && readable === until;
  const spans = { before, after, whole: { firstDay: before.firstDay, lastDay: after.lastDay } };
  const judged = judgedOf(round.kind, round.expectation);
  const leftOut = leftOutOf(turn, spans);
  const out = new Set(leftOut.map(({ page }) => page.id));
  const pages = round.pages.filter((one) => !out.has(one.page.id));
  const against: TurnReading['against'] = round.draw === 'all' ? 'site' : 'half';
  const base = {
    ...{ half, day, before, after, complete, against, judged, leftOut },
    completeOn: complete ? null : finalOn(after.lastDay, context.site.provisionalDays),
  } as const;
  if (readable === 0 || pages.length === 0) {
    return {
      ...base,
      ...{ read: null, verdict: 'waiting', movedIn: null, early: null },
      ...{ effects: byRoundMeasure(() => null), alone: null },
      changed: { before: figuresOf(engine, pages, half, before), after: NOTHING },
      ...{ waiting: null, doubts: [] },
      pages: pages.map(({ page, half: own }) => ({
        ...{ page, half: own, changed: own === half, effects: byRoundMeasure(() => null) },
      })),
    };
  }
  const ids = pages.map(({ page }) => page.id);
  const asked = { ids, day, horizon: { days: windowDays, settlingDays } };
  const rows = engine.look(asked, readable, ROUND_MEASURES);
  const halves = turnRows(rows, pages, half);
  // Learned over the whole horizon, of which all looks are a part.
  const missed = engine.commonVariances(asked, rows, ROUND_MEASURES);
  const alone: TurnDraw = { draw: drawAsRead(round), draws: new Draws(round.seed) };
  const drawn: TurnDraw = { ...alone, common: (measure) => missed[measure] };
  const effects: RoundEffects =
    against === 'site'
      ? effectsAgainstSite(siteEstimates(engine, asked, readable), pages.length)
      : turnEffects(halves, drawn);
  const plain =
    complete || against === 'site'
      ? null
      : plainLook(
          judged,
          looksWorthIt(readable, windowDays).map((look) => ({
            look,
            effect: turnEffects(turnRows(engine.look(asked, look, [judged]), pages, half), drawn, [judged])[
              judged
            ],
          })),
          windowDays,
        );
  const read = { firstDay: after.firstDay, lastDay: addDays(after.firstDay, readable - 1) };
  const halfFigures = (own: Half): HalfFigures => ({
    before: figuresOf(engine, pages, own, before),
    after: figuresOf(engine, pages, own, read),
  });
  const mark = effects[judged] ? markOfRound(judged, effects[judged]) : 'unclear';
  return {
    ...base,
    ...{ read, effects },
    alone: against === 'site' ? null : turnEffects(halves, alone),
    verdict: complete ? mark : 'waiting',
    movedIn: complete && (mark === 'lifted' || mark === 'dropped') ? judged : null,
    early: plain && { ...plain, day: addDays(after.firstDay, plain.look - 1) },
    changed: halfFigures(half),
    waiting: against === 'site' ? null : halfFigures(half === 'first' ? 'second' : 'first'),
    pages: rows
      .map((row): PageOfRound => {
        const own = pages.find(({ page }) => page.id === row.id)!;
        return {
          ...{ page: own.page, half: own.half, changed: own.half === half },
          effects: byRoundMeasure((measure) => {
            const one = row.effects[measure];
            return one && { net: one.net, low: one.low, high: one.high, mark: markOfRound(measure, one) };
          }),
        };
      })
      .sort((a, b) => Number(b.changed) - Number(a.changed) || heightOf(b, judged) - heightOf(a, judged)),
    doubts: doubtsOf(context, { round, half, spans: { before, after: read }, leftOut }),
  };
}

/** Days on which something could have been plain, and the last one. */
function looksWorthIt(readable: number, days: number): number[] {
  const all = Array.from({ length: readable }, (_, i) => i + 1);
  return all.filter((look) => look === readable || earlyLevel(look, days) > 1 / MOST_DRAWS);
}
/** Draws of a round beyond which p-values are not told apart. */
const MOST_DRAWS = 10_000;

function heightOf({ effects }: PageOfRound, judged: TurnReading['judged']): number {
  const one = effects[judged];
  return one ? (judged === 'rank' ? -one.net : one.net) : -Infinity;
}

function turnRows(rows: readonly RowEffects[], pages: readonly RoundPage[], half: Half): TurnRow[] {
  const byId = new Map(pages.map((one) => [one.page.id, one]));
  return rows.map(({ id, effects }) => {
    const { block, half: own } = byId.get(id)!;
    return { pageId: id, block, changed: own === half, effects };
  });
}

function siteEstimates(
  engine: EffectEngine,
  asked: {
    readonly ids: readonly number[];
    readonly day: Day;
    readonly horizon: { days: number; settlingDays: number };
  },
  days: number,
): Estimates {
  const compared = engine.compare({ ...asked, horizon: { ...asked.horizon, days } });
  return compared!.effects;
}

const NOTHING: HalfTotals = { clicks: 0, impressions: 0, position: null, appeal: null };

function figuresOf(engine: EffectEngine, pages: readonly RoundPage[], half: Half, span: Span): HalfTotals {
  const ids = pages.filter((one) => one.half === half).map(({ page }) => page.id);
  const rows = ids.flatMap((id) => engine.history.row(id) ?? []);
  if (rows.length === 0) return NOTHING;
  const totals = new Accumulator();
  for (const row of rows) totals.addSums(engine.history.totals(row, span));
  const expected = engine.history.expectedOf(ids, span);
  return {
    ...{ clicks: totals.clicks, impressions: totals.impressions, position: averagePosition(totals) },
    appeal: expected ? totals.clicks / expected : null,
  };
}

/**
 * Pages left out: not changed with the others, changed otherwise in these days, or found changed
 * without a log entry.
 */
function leftOutOf({ context, round, half, day }: Turn, { whole }: Spans): LeftOut[] {
  const own = new Set(Object.values(round.changes));
  const others = context.made.filter((change) => !own.has(change.id) && inSpan(change.day, whole));
  const found = unloggedOn(context.db, context.site, context.changes, whole.firstDay).filter(
    ({ to }) => to >= day && to <= whole.lastDay,
  );
  return round.pages.flatMap(({ page, half: of, steps }): LeftOut[] => {
    const because = (reason: string, changeId: number | null = null) => [
      { page, half: of, reason, changeId },
    ];
    if (of === half && steps.made === undefined) return because('was not made yet');
    if (of === half && Math.abs(steps.made! - day) > round.settlingDays)
      return because('was made on another day than the others');
    const touched = others.find((change) => change.pages.some(({ id }) => id === page.id));
    if (touched) return because(`had another change in these days: “${touched.title}”`, touched.id);
    const seen = found.find((one) => one.page.id === page.id);
    return seen ? because('was found changed in these days, and nobody logged it') : [];
  });
}
