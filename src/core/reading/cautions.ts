import { addDays, type Day } from '../calendar/day';
import { inSpan, overlap, spanLength, type ChangeSpans, type Span } from '../calendar/span';
import type { Metrics } from '../measures/comparison';
import { changeKindName, givesText, kindsOf } from '../model/change';
import type { Measure } from '../measures/registry';
import { concerns, EVENT_KINDS } from '../model/event';
import type { Comparison } from '../effect/engine';
import { longDay, metricInText, plural, spanText } from '../words/format';
import type { ResultsEvent } from '../wording/days';
import { coveredDays, type ReadingInput } from './input';
import type { Caution, CautionCode, Compared, Reading, Yardstick } from './readingModel';
import { movedShare } from './shares';

/** Below this many clicks in both spans together a difference says little (docs/method.md, 9). */
export const FEW_CLICKS = 20;

/** The reasons to doubt a reading, the gravest first (docs/method.md, 9). */
export function findCautions(
  input: ReadingInput,
  { spans, compared, metrics, yardstick, judged }: Omit<Reading, 'cautions'>,
  effects: Comparison | null,
): Caution[] {
  return [
    ...(spans.complete ? noFiguresCaution(metrics) : []),
    ...input.wrongTwins.map((sentence) => caution('twin-has-figures', sentence)),
    ...(input.fromPeriods ? [periodCaution()] : []),
    ...(input.appealKnown === false ? [appealUnknownCaution(input)] : []),
    ...eventCautions(input, spans),
    ...severalEditsCaution(input),
    ...otherChangeCautions(input, spans),
    ...(compared?.after ? seenCaution(input, compared.after) : []),
    ...resultsCautions(input, spans),
    ...(compared ? missingDayCautions(input, compared) : []),
    ...(compared ? missingQueryDayCaution(input, compared) : []),
    ...provisionalCaution(input, spans),
    ...(compared ? sourceCautions(input, compared) : []),
    ...figureCautions(metrics),
    ...(effects ? pastCautions(effects) : []),
    ...(yardstick && spans.complete ? yardstickCautions(yardstick, judged) : []),
    ...(compared?.after ? shareCautions(input, compared.before, compared.after) : []),
  ];
}

function periodCaution(): Caution {
  return caution(
    'period-totals',
    'Both sides are totals of a period and not daily figures: a plain before and after, with nothing to hold it against.',
  );
}

function appealUnknownCaution({ narrowed: { device, country } }: ReadingInput): Caution {
  const by = [device && 'device', country && 'country'].filter(Boolean).join(' and ');
  return caution(
    'no-queries-by-part',
    `The imported files have no queries by ${by}, so appeal and expected clicks are left out.`,
  );
}

function noFiguresCaution(metrics: Metrics): Caution[] {
  const sides = (['before', 'after'] as const).filter((side) => metrics.clicks[side] === null);
  if (sides.length === 0) return [];
  const which = sides.length === 2 ? 'either span' : `the ${sides[0]} span`;
  return [caution('no-figures', `There are no figures for ${which}, so nothing can be told.`)];
}

function caution(code: CautionCode, message: string, rest: Partial<Caution> = {}): Caution {
  return { days: null, changeId: null, eventId: null, ...rest, code, message };
}

/**
 * From the first day before to the last day after, settling days included: an update within them
 * affects the after span.
 */
function wholeSpan(spans: ChangeSpans): Span {
  return { firstDay: spans.before.firstDay, lastDay: spans.after.lastDay };
}

/** Says on which of the parts of a reading `days` fall. @example "8 of the 28 after days" */
function whichDays(days: Span, spans: ChangeSpans): string {
  const parts: string[] = [];
  const before = overlap(days, spans.before);
  const after = overlap(days, spans.after);
  if (before) parts.push(`${spanLength(before)} of the ${spans.windowDays} before days`);
  if (after) parts.push(`${spanLength(after)} of the ${spans.windowDays} after days`);
  return parts.length > 0 ? parts.join(' and ') : 'the settling days, between the spans';
}

/** Whether results showed the new text throughout; only if the steps of the change are recorded. */
function seenCaution({ change }: ReadingInput, after: Span): Caution[] {
  const { steps } = change;
  const followed = steps['reindex-requested'] !== undefined || steps.crawled !== undefined;
  const seen = steps['seen-in-results'];
  if (!givesText(change) || (seen === undefined && !followed)) return [];
  if (seen === undefined) {
    return [
      caution('not-seen-in-results', 'Nobody has seen the new text in the results yet.', { days: after }),
    ];
  }
  if (seen <= after.firstDay) return [];
  const days = Math.min(seen, after.lastDay + 1) - after.firstDay;
  return [
    caution(
      'not-seen-in-results',
      `The new text was first seen in the results on ${longDay(seen)}: on ${plural(days, 'after day')} they may have shown the old.`,
      { days: { firstDay: after.firstDay, lastDay: addDays(after.firstDay, days - 1) } },
    ),
  ];
}

/**
 * What changed on result pages within the spans, and how that affects clicks at the same position.
 */
function resultsCautions({ resultsEvents = [], change }: ReadingInput, spans: ChangeSpans): Caution[] {
  return resultsEvents.flatMap(({ kind, from, to, text, query }) => {
    const days = { firstDay: addDays(from, 1), lastDay: to };
    const inside = overlap(days, wholeSpan(spans));
    // That the results show a new title is what the change is for, and its step says so.
    if (!inside || (kind === 'own-reworded' && givesText(change))) return [];
    const meaning = RESULTS_MEANING[kind];
    return caution(
      'results-changed',
      `Between ${longDay(from)} and ${longDay(to)} ${text} (“${query}”), on ${whichDays(inside, spans)}${meaning}.`,
      { days: inside },
    );
  });
}

const RESULTS_MEANING: Readonly<Record<ResultsEvent['kind'], string>> = {
  'own-reworded': '',
  'extras-lost': ': fewer clicks at the same rank are then no fault of the title',
  'extras-gained': ': more clicks at the same rank are then not the title’s alone',
  'above-came': ': fewer clicks at the same rank are then no fault of the title',
  'above-went': ': more clicks at the same rank are then not the title’s alone',
  'kind-changed': ': people may be after something else now',
};

function eventCautions({ events, change }: ReadingInput, spans: ChangeSpans): Caution[] {
  const addresses = change.pages.map((page) => page.address);
  return events.flatMap((event) => {
    if (!concerns(event, addresses)) return [];
    const days = overlap(event, wholeSpan(spans));
    if (!days) return [];
    const kind = EVENT_KINDS[event.kind].toLowerCase();
    const where = whichDays(days, spans);
    const [inBefore, inAfter] = [overlap(days, spans.before), overlap(days, spans.after)];
    const oneSided = event.kind === 'holiday-or-season' && (inBefore === null) !== (inAfter === null);
    const code: CautionCode =
      event.kind === 'algorithm-update'
        ? 'update-in-span'
        : oneSided
          ? 'season-on-one-side'
          : 'event-in-span';
    const only = oneSided ? ', and on the other side not at all' : '';
    return caution(code, `${event.name} (${kind}, ${spanText(event)}) fell on ${where}${only}.`, {
      days,
      eventId: event.id,
    });
  });
}

function severalEditsCaution({ change }: ReadingInput): Caution[] {
  const kinds = kindsOf(change).map((kind) => changeKindName(kind).toLowerCase());
  if (kinds.length === 1) return [];
  const named = `${kinds.slice(0, -1).join(', ')} and ${kinds.at(-1)}`;
  return [
    caution(
      'several-edits',
      `${plural(kinds.length, 'edit')} were made at once (${named}): what each of them did cannot be told apart.`,
    ),
  ];
}

function otherChangeCautions({ change, otherChanges }: ReadingInput, spans: ChangeSpans): Caution[] {
  const pages = new Set(change.pages.map((page) => page.id));
  return otherChanges.flatMap((other) => {
    if (other.id === change.id || !inSpan(other.day, wholeSpan(spans))) return [];
    const shared = other.pages.filter((page) => pages.has(page.id)).length;
    if (shared === 0) return [];
    const where =
      change.pages.length === 1 ? 'on this page' : `on ${shared} of these ${change.pages.length} pages`;
    const part = inSpan(other.day, spans.before)
      ? 'before span'
      : inSpan(other.day, spans.after)
        ? 'after span'
        : 'settling days';
    return caution(
      'other-change-in-span',
      `“${other.title}” was made ${where} on ${longDay(other.day)}, in the ${part}: the two cannot be told apart.`,
      { days: { firstDay: other.day, lastDay: other.day }, changeId: other.id },
    );
  });
}

function missingDayCautions({ daysWithFigures }: ReadingInput, compared: NonNullable<Compared>): Caution[] {
  return (['before', 'after'] as const).flatMap((side) => {
    const span = compared[side];
    if (!span) return [];
    const missing = spanLength(span) - coveredDays(span, daysWithFigures);
    if (missing === 0) return [];
    return caution(
      'missing-days',
      `${missing} of the ${spanLength(span)} ${side} days ${missing === 1 ? 'has' : 'have'} no figures: ${missingRuns(span, daysWithFigures)}. Missing is not zero, so the sums of the two spans are not of equally many days.`,
      { days: span },
    );
  });
}

/** Page totals without rows by query on the same days: the change’s queries are unknown then. */
function missingQueryDayCaution(input: ReadingInput, compared: NonNullable<Compared>): Caution[] {
  const { change, daysWithFigures, daysWithQueries } = input;
  if (change.queries.length === 0 && daysWithQueries.size === 0) return [];
  const sides = (['before', 'after'] as const).flatMap((side) => {
    const span = compared[side];
    if (!span) return [];
    const known = coveredDays(span, daysWithQueries);
    return { side, known, missing: coveredDays(span, daysWithFigures) - known };
  });
  const missing = sides.filter((side) => side.missing > 0);
  if (missing.length === 0) return [];
  if (sides.every((side) => side.known === 0)) {
    const message =
      'No rows by query were brought in for these days, so nothing is known of the queries of the change.';
    return [caution('missing-query-days', message)];
  }
  const counts = missing.map((side) => plural(side.missing, `${side.side} day`)).join(' and ');
  return [
    caution(
      'missing-query-days',
      `On ${counts} there are page totals and no rows by query: the queries are read over fewer days than the page.`,
    ),
  ];
}

/** Names the runs of missing days, at most three of them. */
function missingRuns(span: Span, daysWithFigures: ReadonlySet<Day>): string {
  const runs: Span[] = [];
  for (let day = span.firstDay; day <= span.lastDay; day = addDays(day, 1)) {
    if (daysWithFigures.has(day)) continue;
    const last = runs.at(-1);
    if (last && last.lastDay === addDays(day, -1)) runs[runs.length - 1] = { ...last, lastDay: day };
    else runs.push({ firstDay: day, lastDay: day });
  }
  const shown = runs.slice(0, 3).map(spanText).join(', ');
  return runs.length > 3 ? `${shown} and ${plural(runs.length - 3, 'more run')}` : shown;
}

function provisionalCaution({ daysWithFigures, lastReadable }: ReadingInput, spans: ChangeSpans): Caution[] {
  if (lastReadable === null) return [];
  let left = 0;
  for (let day = Math.max(spans.after.firstDay, lastReadable + 1); day <= spans.after.lastDay; day++) {
    if (daysWithFigures.has(day as Day)) left++;
  }
  if (left === 0) return [];
  return [
    caution(
      'provisional-days',
      `${plural(left, 'after day')} ${left === 1 ? 'has' : 'have'} provisional figures, which may still be revised: shown, but not read.`,
      { days: { firstDay: addDays(lastReadable, 1), lastDay: spans.after.lastDay } },
    ),
  ];
}

function sourceCautions({ pageDays }: ReadingInput, compared: NonNullable<Compared>): Caution[] {
  const read = pageDays.filter(
    ({ day }) => inSpan(day, compared.before) || (compared.after !== null && inSpan(day, compared.after)),
  );
  const fromQueries = read.filter((row) => row.fromQueries).length;
  if (fromQueries === 0) return [];
  const share = fromQueries === read.length ? 'The totals are' : 'On some days the totals are';
  return [
    caution(
      'query-sums',
      `${share} sums of query rows, because no page totals were brought in for them: rare searches, which are withheld, are missing.`,
    ),
  ];
}

function figureCautions(metrics: Metrics): Caution[] {
  const found: Caution[] = [];
  const { before, after } = metrics.clicks;
  if (before !== null && after !== null && before + after < FEW_CLICKS) {
    found.push(
      caution(
        'few-clicks',
        `Only ${plural(before + after, 'click')} in both spans together: a few more or fewer by chance would look like a large change.`,
      ),
    );
  }
  const seen = (metrics.impressions.before ?? 0) + (metrics.impressions.after ?? 0) > 0;
  if (seen && metrics.position.before === null && metrics.position.after === null) {
    found.push(caution('no-position', 'The files brought in gave no position for these days.'));
  }
  return found;
}

/** Beyond this many standard deviations a page stood out before the change. */
const STOOD_OUT = 1.645;

/** The page was already on its way, or not at its usual level, before anything was done to it. */
function pastCautions({ dip, preTrend }: Comparison): Caution[] {
  const found: Caution[] = [];
  if (preTrend !== null && Math.abs(preTrend) > STOOD_OUT) {
    const way = preTrend > 0 ? 'rising' : 'falling';
    found.push(
      caution(
        'moving-before',
        `Clicks were already ${way} in the week before the change, more than is ordinary. The net effect allows for how such movements usually go on.`,
      ),
    );
  }
  if (dip !== null && dip < -STOOD_OUT) {
    found.push(
      caution(
        'low-before',
        'Clicks had dipped below their longer level before the change, and part of a dip comes back by itself. The net effect leaves out what usually does.',
      ),
    );
  }
  if (dip !== null && dip > STOOD_OUT) {
    found.push(
      caution(
        'high-before',
        'Clicks stood above their longer level before the change, and part of that goes by itself. The net effect leaves out what usually does.',
      ),
    );
  }
  return found;
}

/** Below this many pages a yardstick is a matter of chance (docs/method.md, 9). */
export const FEW_YARDSTICK_PAGES = 5;
/**
 * Tracking below which the control does harm. Pages that move independently are slightly below 0.
 */
const TRACKS_BADLY = -0.4;

function yardstickCautions({ pages, tracking }: Yardstick, judged: Measure): Caution[] {
  if (pages === 0) {
    const message = `No untouched page has enough figures to be the yardstick: season and updates are still in the ${metricInText(judged)}.`;
    return [caution('few-yardstick-pages', message)];
  }
  if (pages < FEW_YARDSTICK_PAGES) {
    return [caution('few-yardstick-pages', `The yardstick is made of ${plural(pages, 'page')} only.`)];
  }
  if (tracking !== null && tracking < TRACKS_BADLY) {
    return [
      caution(
        'yardstick-tracks-badly',
        'The untouched pages went other ways than each other in the past, so they say little about what would have happened here.',
      ),
    ];
  }
  return [];
}

function shareCautions({ sharesIn }: ReadingInput, before: Span, after: Span): Caution[] {
  return sharesIn(before, after).flatMap((shares) => {
    const moved = movedShare(shares);
    if (!moved) return [];
    const percent = (share: number) => `${Math.round(share * 100)}%`;
    return caution(
      'shares-moved',
      `The shares of impressions by ${shares.by} moved: ${moved.name} from ${percent(moved.before)} to ${percent(moved.after)}. CTR and position may have moved with them.`,
    );
  });
}
