/* Two days of one query's result page: who came, went, moved and reworded. */

import type { Day } from '../calendar/day';
import { plural } from '../words/format';
import { kindOfResult } from './kinds';
import {
  ABOVE_NAMES,
  RESULT_EXTRA_NAMES,
  RESULT_KIND_NAMES,
  type AboveKind,
  type Result,
  type ResultExtra,
  type ResultKind,
  type ResultPage,
} from './resultPage';

/** A result on both days. */
export type Both = {
  readonly address: string;
  readonly before: Result;
  readonly after: Result;
  /** Places gained: above nought is up. */
  readonly gained: number;
  readonly retitled: boolean;
  readonly redescribed: boolean;
  readonly extrasGained: readonly ResultExtra[];
  readonly extrasLost: readonly ResultExtra[];
};

/** What differs between two days. */
export type DaysCompared = {
  readonly came: readonly Result[];
  readonly went: readonly Result[];
  readonly stayed: readonly Both[];
  readonly aboveCame: readonly AboveKind[];
  readonly aboveWent: readonly AboveKind[];
  /** The kind that most results are of, where it is another than before. */
  readonly kindChanged: { readonly from: ResultKind; readonly to: ResultKind } | null;
};

/** How an address is compared: without its scheme, `www.` and a slash at the end. */
export function addressKey(address: string): string {
  return address
    .toLowerCase()
    .replace(/^https?:\/\/(?:www\.)?/, '')
    .replace(/[?#].*$/, '')
    .replace(/\/+$/, '');
}

/**
 * Compares the results of a query on two days; an URL listed twice on a day counts at its better
 * position.
 */
export function compareDays(
  before: Pick<ResultPage, 'results' | 'above'>,
  after: Pick<ResultPage, 'results' | 'above'>,
): DaysCompared {
  const [was, now] = [byAddress(before.results), byAddress(after.results)];
  const kinds = [mostOf(before.results), mostOf(after.results)] as const;
  const above = (side: Pick<ResultPage, 'above'>) => new Set(side.above.map(({ kind }) => kind));
  const [aboveWas, aboveNow] = [above(before), above(after)];
  return {
    came: [...now].filter(([key]) => !was.has(key)).map(([, result]) => result),
    went: [...was].filter(([key]) => !now.has(key)).map(([, result]) => result),
    stayed: [...now].flatMap(([key, result]): Both[] => {
      const earlier = was.get(key);
      return earlier ? [bothOf(earlier, result)] : [];
    }),
    aboveCame: [...aboveNow].filter((kind) => !aboveWas.has(kind)),
    aboveWent: [...aboveWas].filter((kind) => !aboveNow.has(kind)),
    kindChanged:
      kinds[0] !== null && kinds[1] !== null && kinds[0] !== kinds[1]
        ? { from: kinds[0], to: kinds[1] }
        : null,
  };
}

function byAddress(results: readonly Result[]): Map<string, Result> {
  const found = new Map<string, Result>();
  for (const result of results) {
    const key = addressKey(result.address);
    if (!found.has(key)) found.set(key, result);
  }
  return found;
}

function bothOf(before: Result, after: Result): Both {
  const differ = (a: string | null, b: string | null) => a !== null && b !== null && a !== b;
  return {
    ...{ address: after.address, before, after, gained: before.rank - after.rank },
    retitled: before.title !== after.title,
    redescribed: differ(before.description, after.description),
    extrasGained: after.extras.filter((extra) => !before.extras.includes(extra)),
    extrasLost: before.extras.filter((extra) => !after.extras.includes(extra)),
  };
}

/** The kind that more than half of the results are of; null where none is. */
function mostOf(results: readonly Result[]): ResultKind | null {
  const counts = new Map<ResultKind, number>();
  for (const result of results) {
    const kind = kindOfResult(result);
    counts.set(kind, (counts.get(kind) ?? 0) + 1);
  }
  const [most] = [...counts].sort((a, b) => b[1] - a[1]);
  return most && most[1] > results.length / 2 ? most[0] : null;
}

/** Something that happened on a result page between two days on which it was looked at. */
export type ResultsEvent = {
  readonly from: Day;
  readonly to: Day;
  /** What it means for one's own page: fewer clicks at the same rank, more, or another text. */
  readonly kind:
    'own-reworded' | 'extras-lost' | 'extras-gained' | 'above-came' | 'above-went' | 'kind-changed';
  readonly text: string;
};

const list = (names: readonly string[]) => names.join(' and ');

/** Events on the result pages of a query from one capture to the next; `own` marks our results. */
export function resultsEvents(
  pages: readonly Pick<ResultPage, 'day' | 'results' | 'above'>[],
  own: (address: string) => boolean,
): ResultsEvent[] {
  const sorted = [...pages].sort((a, b) => a.day - b.day);
  return sorted.slice(1).flatMap((after, i): ResultsEvent[] => {
    const before = sorted[i]!;
    const { stayed, aboveCame, aboveWent, kindChanged } = compareDays(before, after);
    const days = { from: before.day, to: after.day };
    const found: ResultsEvent[] = [];
    for (const { address, after: now, retitled, extrasLost, extrasGained } of stayed) {
      if (!own(address)) continue;
      if (retitled) found.push({ ...days, kind: 'own-reworded', text: `the results show “${now.title}”` });
      if (extrasLost.length > 0)
        found.push({
          ...{ ...days, kind: 'extras-lost' },
          text: `the result lost its ${list(extrasLost.map((extra) => RESULT_EXTRA_NAMES[extra]))}`,
        });
      if (extrasGained.length > 0)
        found.push({
          ...{ ...days, kind: 'extras-gained' },
          text: `the result carries ${list(extrasGained.map((extra) => RESULT_EXTRA_NAMES[extra]))}`,
        });
    }
    for (const kind of aboveCame)
      found.push({ ...days, kind: 'above-came', text: `${ABOVE_NAMES[kind]} appeared above the results` });
    for (const kind of aboveWent)
      found.push({ ...days, kind: 'above-went', text: `${ABOVE_NAMES[kind]} went from above the results` });
    if (kindChanged)
      found.push({
        ...{ ...days, kind: 'kind-changed' },
        text: `most results were ${RESULT_KIND_NAMES[kindChanged.from]}s and are ${RESULT_KIND_NAMES[kindChanged.to]}s now`,
      });
    return found;
  });
}

/**
 * The difference in a sentence.
 *
 * @example "Two results came and two went; three were reworded."
 */
export function daysSentence({ came, went, stayed }: DaysCompared): string {
  const reworded = stayed.filter(({ retitled }) => retitled).length;
  const moved = stayed.filter(({ gained }) => gained !== 0).length;
  if (came.length === 0 && went.length === 0 && reworded === 0 && moved === 0) return 'Nothing changed.';
  const parts = [
    came.length > 0
      ? `${plural(came.length, 'result')} came${went.length > 0 ? ` and ${went.length} went` : ''}`
      : went.length > 0
        ? `${plural(went.length, 'result')} went`
        : '',
    moved > 0 ? `${moved} moved` : '',
    reworded > 0 ? `${reworded} ${reworded === 1 ? 'was' : 'were'} reworded` : '',
  ].filter(Boolean);
  const text = parts.join('; ');
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
}
