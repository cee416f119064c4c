import { spanLength } from '../../core/calendar/span';
import { varianceOf } from '../../core/effect/effect';
import { newTitleOf, type Change, type Expectation } from '../../core/model/change';
import { isInPlaces, type Measure } from '../../core/measures/registry';
import { pagesOf, type Half, type Round } from '../../core/model/round';
import type { TakenOpening } from '../../core/model/takenOpening';
import { MONTH_DAYS } from '../../core/openings/opening';
import { outcomeOf, type Outcome } from '../../core/reading/outcome';
import type { Reading } from '../../core/reading/readingModel';
import type { RoundEffect } from '../../core/rounds/effect';
import type { TurnReading } from '../../core/rounds/reading';
import type { BookSource } from '../../core/scorebook/book';
import type { Forecast, OpeningForecast } from '../../core/scorebook/forecasts';
import { scoredEffect, type Scored, type ScoredEffect } from '../../core/scorebook/scorebookModel';
import { commonMarks, type TitleChange, type TitleChangeMark } from '../../core/scorebook/titleChange';
import { listRounds } from '../../store/rounds/rounds';
import { takenOpenings } from '../../store/rounds/takenOpenings';
import { pageTraits } from '../../store/traits/traits';
import type { Engines } from '../site/engines';
import { readChanges } from '../reading/readChanges';
import { readRound } from '../rounds/read';
import type { SiteContext } from '../site/siteContext';
import { wordsOfSite } from '../site/siteWords';

/** A change or a turn of a round that was read to its end, with what was expected of it. */
type Entry = {
  readonly scored: Scored;
  readonly forecast: Forecast | null;
  readonly opening: OpeningForecast | null;
};

/** All that was read to its end on a site. A round stands for the changes that its halves were logged as. */
export function bookSource(context: SiteContext, engines: Engines): BookSource {
  const rounds = listRounds(context.db, context.site.id);
  const ofRounds = new Set(rounds.flatMap(({ changes }) => Object.values(changes)));
  const readings = readToTheEnd(readChanges(context, engines)).filter(
    ({ change }) => !ofRounds.has(change.id),
  );
  const taken = takenOpenings(
    context.db,
    readings.map(({ change }) => change.id),
  );
  const about = aboutPages(context, engines);
  const entries = [
    ...readings.map((reading) => entryOfChange(reading, taken.get(reading.change.id) ?? null, about)),
    ...rounds.flatMap((round) => {
      const { first, second } = readRound(context, engines, round);
      return [first, second].flatMap((turn) => (turn?.complete ? entryOfTurn(round, turn, about) : []));
    }),
  ];
  return {
    scored: entries.map(({ scored }) => scored),
    forecasts: entries.flatMap(({ forecast }) => forecast ?? []),
    openings: entries.flatMap(({ opening }) => opening ?? []),
  };
}

/** Those of some readings that say something for good. */
export function readToTheEnd(readings: readonly Reading[]): readonly Reading[] {
  return readings.filter(
    ({ verdict, estimates, spans }) => spans.complete && verdict !== 'waiting' && estimates !== null,
  );
}

/** What is known of pages besides what was changed on them. */
type AboutPages = {
  readonly groupsOf: (ids: readonly number[]) => string[];
  readonly marksOf: (
    changes: readonly Omit<TitleChange, 'target'>[],
    ids: readonly number[],
    query: string | null,
  ) => TitleChangeMark[];
};

function aboutPages({ db, site }: SiteContext, engines: Engines): AboutPages {
  const figures = engines.figures(site);
  const traits = pageTraits(db, site.id);
  const { lexicon } = wordsOfSite(db, site);
  return {
    groupsOf: (ids) => {
      if (!figures) return [];
      const { of, names } = figures.groupsOf(ids);
      return names.filter(
        (name, i) => name !== '' && 2 * Array.from(of).filter((one) => one === i).length >= ids.length,
      );
    },
    marksOf: (changes, ids, query) =>
      commonMarks(
        changes.map((change, i) => ({ ...change, target: traits.get(ids[i]!)?.target ?? query })),
        lexicon,
      ),
  };
}

function entryOfChange(reading: Reading, taken: TakenOpening | null, about: AboutPages): Entry {
  const { change, spans, estimates, verdict } = reading;
  const ids = change.pages.map(({ id }) => id);
  const outcome = outcomeOf(reading);
  return {
    scored: {
      ...{ siteId: change.siteId, changeId: change.id, roundId: null, title: change.title },
      ...{
        after: spans.after,
        pages: ids.length,
        kind: change.kind,
        tags: change.tags,
        person: change.person,
      },
      groups: about.groupsOf(ids),
      marks: marksOfChange(change, about),
      verdict: verdict === 'waiting' ? 'unclear' : verdict,
      counted: { before: reading.metrics.clicks.before, after: reading.metrics.clicks.after },
      estimates: {
        appeal: estimates!.appeal && scoredEffect(estimates!.appeal),
        clicks: estimates!.clicks && scoredEffect(estimates!.clicks),
      },
    },
    forecast:
      outcome &&
      forecastOf(change, change.expectation!, outcome, (metric) => estimates![metric]?.net ?? null),
    opening: taken && {
      estimated: taken.clicks,
      ...{ low: taken.low, high: taken.high },
      came: clicksAMonth(
        estimates!.clicks?.net ?? null,
        reading.metrics.clicks.after,
        spanLength(spans.after),
      ),
    },
  };
}

function marksOfChange(change: Change, about: AboutPages): TitleChangeMark[] {
  if (change.kind !== 'title-rewrite') return [];
  const titled = change.pages.flatMap(({ id, address }) => {
    const part = change.parts.find((one) => one.kind === 'title-rewrite' && one.page?.id === id);
    const oldText = part?.oldText ?? change.oldText;
    const newText = newTitleOf(change, id);
    return oldText && newText ? [{ id, text: { oldText, newText, address } }] : [];
  });
  return about.marksOf(
    titled.map(({ text }) => text),
    titled.map(({ id }) => id),
    change.queries[0] ?? null,
  );
}

function entryOfTurn(round: Round, turn: TurnReading, about: AboutPages): Entry {
  const pages = pagesOf(round, turn.half);
  const ids = pages.map(({ page }) => page.id);
  const titled = round.kind === 'title-rewrite' ? pages : [];
  const texts = titled.flatMap(({ page, oldText, newText }) =>
    oldText && newText ? [{ id: page.id, text: { oldText, newText, address: page.address } }] : [],
  );
  const { appeal, clicks } = turn.effects;
  const effect = turn.effects[turn.judged];
  const taken = pages.flatMap(({ opening }) => opening ?? []);
  const sum = (of: 'clicks' | 'low' | 'high') => taken.reduce((total, one) => total + one[of], 0);
  return {
    scored: {
      ...{ siteId: round.siteId, changeId: null, roundId: round.id, title: titleOf(round, turn.half) },
      ...{
        after: turn.read ?? turn.after,
        pages: ids.length,
        kind: round.kind,
        tags: [],
        person: round.person,
      },
      groups: about.groupsOf(ids),
      marks: about.marksOf(
        texts.map(({ text }) => text),
        texts.map(({ id }) => id),
        null,
      ),
      verdict: turn.verdict === 'waiting' ? 'unclear' : turn.verdict,
      counted: null,
      estimates: { appeal: appeal && scoredTurn(appeal), clicks: clicks && scoredTurn(clicks) },
    },
    forecast:
      round.expectation && effect
        ? forecastOf(
            round,
            round.expectation,
            outcomeOfTurn(round.expectation, effect, turn.judged),
            () => effect.net,
          )
        : null,
    opening:
      taken.length > 0
        ? {
            ...{ estimated: sum('clicks'), low: sum('low'), high: sum('high') },
            came: clicksAMonth(
              clicks?.net ?? null,
              turn.changed.after.clicks,
              spanLength(turn.read ?? turn.after),
            ),
          }
        : null,
  };
}

const titleOf = ({ name, draw }: Round, half: Half) => (draw === 'all' ? name : `${name}: ${half} half`);

/** The effect of a turn as it is pooled, by its interval of a re-randomisation. */
function scoredTurn(effect: RoundEffect): ScoredEffect | null {
  const { net, low, high, shared } = effect;
  return Number.isFinite(low) && Number.isFinite(high)
    ? { net, low, high, variance: varianceOf(effect), shared }
    : null;
}

/** Clicks a month that a net effect comes to. */
function clicksAMonth(net: number | null, after: number | null, days: number): number {
  return net === null || after === null ? 0 : (after * (1 - Math.exp(-net)) * MONTH_DAYS) / days;
}

function forecastOf(
  { person, kind }: { readonly person: string | null; readonly kind: string },
  { metric, direction, amount }: Expectation,
  outcome: Outcome,
  netOf: (measure: Measure) => number | null,
): Forecast {
  // Places are no share of anything: of them only whether they came is told.
  const share = amount === null || isInPlaces(metric) ? null : direction === 'up' ? amount : -amount;
  return {
    ...{ person, kind, outcome },
    expected: share === null ? null : Math.log1p(Math.max(-0.99, share)),
    came: isInPlaces(metric) ? null : netOf(metric),
  };
}

/** Whether the range of a round reaches what was expected of it. */
function outcomeOfTurn(
  { direction, amount, metric }: Expectation,
  effect: RoundEffect,
  judged: Measure,
): Outcome {
  if (isInPlaces(metric) && amount !== null) return 'cannot-be-told';
  const sign = direction === 'up' ? 1 : -1;
  const wanted = sign * Math.log1p(sign * Math.min(amount ?? 0, 0.99));
  const turn = isInPlaces(judged) ? -sign : sign;
  const ends = [turn * effect.low, turn * effect.high];
  if (ends.every((end) => end >= wanted)) return 'met';
  return ends.some((end) => end >= wanted) ? 'cannot-be-told' : 'not-met';
}
