import { addDays, type Day } from '../calendar/day';
import { givesText, type Change } from '../model/change';
import { isMade } from '../model/steps';
import { plural } from '../words/format';

/** What is due, in the order in which to do it. */
export const DESK_KINDS = {
  'plain-drop': 'Plainly dropping',
  'to-make': 'To make',
  'round-due': 'Rounds that wait for somebody',
  'routine-due': 'Routines',
  'not-crawled': 'Not crawled yet',
  'old-text': 'Results may still show the old text',
  'review-due': 'Review due',
  complete: 'Reading complete',
  unlogged: 'Done and not logged',
  'fell-back': 'Falls beyond ordinary movement',
} as const;
export type DeskKind = keyof typeof DESK_KINDS;

/** One thing that is due. `key` stays the same from day to day, so that it can be put off. */
export type DeskLine = {
  readonly key: string;
  readonly kind: DeskKind;
  readonly title: string;
  readonly detail: {
    readonly since: Day | null;
    readonly before: number | null;
    readonly after: number | null;
  };
  readonly changeId: number | null;
  readonly pageId: number | null;
  readonly roundId?: number;
  readonly routineId?: number;
};

/** Clicks of a page in the last week that can be read and in the week before it. */
export type PageWeeks = {
  readonly pageId: number;
  readonly path: string;
  readonly before: number;
  readonly after: number;
  /** Clicks of earlier weeks, oldest first, which show the ordinary movement. */
  readonly past?: readonly number[];
};

/**
 * When a fall is listed: the share by which clicks fall, and how many times the ordinary movement.
 */
export type FallLimits = { readonly share: number; readonly beyond: number };

/** Something that was done to a page and not logged, as a snapshot shows. */
export type UnloggedWork = {
  readonly snapshotId: number;
  readonly pageId: number;
  readonly path: string;
  readonly foundOn: Day;
};

export type DeskInput = {
  readonly today: Day;
  readonly changes: readonly Change[];
  /** The day on which the reading of a change became complete; absent for those that are not. */
  readonly completeSince: ReadonlyMap<number, Day>;
  /** Day on which results last showed an older title than a change gave, by change. */
  readonly seenOld: ReadonlyMap<number, Day>;
  readonly weeks: readonly PageWeeks[];
  /** A fifth, and three times the ordinary movement, where they are absent. */
  readonly fallLimits?: FallLimits;
  readonly unlogged: readonly UnloggedWork[];
  /** What was put off, by its key, and until when. */
  readonly putOff: ReadonlyMap<string, Day>;
  /** Rounds of which a half is to be made or decided on, since when, and in a word what. */
  readonly rounds: readonly {
    readonly id: number;
    readonly name: string;
    readonly what: string;
    readonly since: Day;
  }[];
  /** Routines of which a step is to be done, and since when. */
  readonly routines: readonly { readonly id: number; readonly name: string; readonly since: Day }[];
  /** Changes that a half was logged as: what is done about them is said of the round. */
  readonly ofRounds: ReadonlySet<number>;
  /** Since when a change that is still waited for has plainly brought a drop. */
  readonly plainDrops: ReadonlyMap<number, Day>;
};

/** A request is served at once or within a day or two (common practice, no published source). */
const CRAWL_DAYS = 2;
/** A new title shows within days of the crawl (common practice, no published source). */
const SHOW_DAYS = 4;
/** A reading that became complete stays on the desk this long. */
const COMPLETE_DAYS = 14;
/** Weekly organic visits down by more than a fifth want an alarm (common practice, no published source). */
const USUAL_LIMITS: FallLimits = { share: 0.2, beyond: 3 };
/** Fewer past weeks say nothing of how a page moves. */
const FEWEST_WEEKS = 6;
/** The median absolute deviation of a normal distribution in standard deviations. */
const MAD = 0.6745;
/** The variance of a week's clicks over their mean, roughly. */
const DISPERSION = 1.5;
/** Below this many clicks in a week a fall is chance. */
const FEWEST_CLICKS = 20;
/** Pages that fell which are shown at most, the largest falls first. */
const MOST_FALLS = 20;

/** What is due on a day, in the order to do it, without what was snoozed. */
export function deskLines(input: DeskInput): DeskLine[] {
  const lines = [
    ...input.changes.filter(({ id }) => !input.ofRounds.has(id)).flatMap((change) => linesOf(change, input)),
    ...input.rounds.map(roundLine),
    ...input.routines.map(routineLine),
    ...input.unlogged.map(unloggedLine),
    ...falls(input.weeks, input.fallLimits ?? USUAL_LIMITS),
  ];
  const order = Object.keys(DESK_KINDS);
  return lines
    .filter(({ key }) => (input.putOff.get(key) ?? 0) <= input.today)
    .sort(
      (a, b) =>
        order.indexOf(a.kind) - order.indexOf(b.kind) || (a.detail.since ?? 0) - (b.detail.since ?? 0),
    );
}

function linesOf(change: Change, { today, completeSince, seenOld, plainDrops }: DeskInput): DeskLine[] {
  const { id, title, day, steps, decision, expectation } = change;
  const line = (kind: DeskKind, since: Day): DeskLine => ({
    ...{ key: `${kind}/${id}`, kind, title, changeId: id, pageId: null },
    detail: { since, before: null, after: null },
  });
  if (!isMade(change)) return day <= today ? [line('to-make', day)] : [];
  if (decision !== null) return [];
  const lines: DeskLine[] = [];
  const drop = plainDrops.get(id);
  if (drop !== undefined) lines.push(line('plain-drop', drop));
  const requested = steps['reindex-requested'];
  if (requested !== undefined && steps.crawled === undefined && addDays(requested, CRAWL_DAYS) <= today)
    lines.push(line('not-crawled', requested));
  const { crawled } = steps;
  if (
    crawled !== undefined &&
    givesText(change) &&
    steps['seen-in-results'] === undefined &&
    (seenOld.has(id) || addDays(crawled, SHOW_DAYS) <= today)
  )
    lines.push(line('old-text', crawled));
  if (steps.reviewed !== undefined) return lines;
  const due = expectation?.reviewDay;
  const since = completeSince.get(id);
  if (due != null && due <= today) lines.push(line('review-due', due));
  else if (since !== undefined && since <= today && addDays(since, COMPLETE_DAYS) > today)
    lines.push(line('complete', since));
  return lines;
}

function roundLine({ id, name, what, since }: DeskInput['rounds'][number]): DeskLine {
  return {
    ...{ key: `round-due/${id}/${what}`, kind: 'round-due', title: `${name}: ${what}` },
    ...{ changeId: null, pageId: null, roundId: id },
    detail: { since, before: null, after: null },
  };
}

function routineLine({ id, name, since }: DeskInput['routines'][number]): DeskLine {
  return {
    ...{ key: `routine-due/${id}/${since}`, kind: 'routine-due', title: name },
    ...{ changeId: null, pageId: null, routineId: id },
    detail: { since, before: null, after: null },
  };
}

function unloggedLine({ snapshotId, pageId, path, foundOn }: UnloggedWork): DeskLine {
  return {
    ...{ key: `unlogged/${snapshotId}`, kind: 'unlogged', title: path, changeId: null, pageId },
    detail: { since: foundOn, before: null, after: null },
  };
}

function falls(weeks: readonly PageWeeks[], { share, beyond }: FallLimits): DeskLine[] {
  const fallen = weeks
    .filter(({ before, after }) => before >= FEWEST_CLICKS && after < (1 - share) * before)
    .sort((a, b) => b.before - b.after - (a.before - a.after));
  const listed = fallen.filter((one) => fallSize(one) > beyond).slice(0, MOST_FALLS);
  const rest = fallen.filter((one) => !listed.includes(one));
  const lines = listed.map(({ pageId, path, before, after }): DeskLine => ({
    ...{ key: `fell-back/${pageId}`, kind: 'fell-back', title: path, changeId: null, pageId },
    detail: { since: null, before, after },
  }));
  if (rest.length === 0) return lines;
  const sum = (of: (one: PageWeeks) => number) => rest.reduce((total, one) => total + of(one), 0);
  return [
    ...lines,
    {
      ...{ key: 'fell-back/ordinary', kind: 'fell-back', changeId: null, pageId: null },
      title: `${plural(rest.length, listed.length > 0 ? 'more page' : 'page')} within ordinary movement`,
      detail: { since: null, before: sum((one) => one.before), after: sum((one) => one.after) },
    },
  ];
}

/**
 * Fall of a page’s clicks from one week to the next, in units of its ordinary movement: the larger
 * of counting noise and the spread of past weekly changes (median absolute deviation, so that a few
 * real falls don’t hide the next).
 */
function fallSize({ before, after, past = [] }: PageWeeks): number {
  const log = (later: number, earlier: number) => Math.log((later + 0.5) / (earlier + 0.5));
  const weeks = [...past, before];
  const changes = weeks.slice(1).map((later, i) => Math.abs(log(later, weeks[i]!)));
  const counting = Math.sqrt(DISPERSION / (before + 0.5) + DISPERSION / (after + 0.5));
  const own = changes.length < FEWEST_WEEKS ? 0 : median(changes) / MAD;
  return -log(after, before) / Math.max(counting, own);
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}
