/* A planned change out of an opening: what is filled in of it. */

import { addDays, isoDay, type Day } from '../calendar/day';
import type { ExpectedGain } from './expectedGain';
import { KINDS, type OpeningKind } from './kinds';
import type { Gain } from './opening';

export type Taken = {
  readonly kind: OpeningKind;
  readonly key: string;
  readonly path: string | null;
  readonly query: string | null;
  /** The estimate, which is stored with the planned change. */
  readonly gain: Gain | null;
  /** What this type of change is expected to bring here; null where too few were read. */
  readonly expected: ExpectedGain | null;
  /** The page's title as it is. */
  readonly title: string | null;
  readonly daysToShow: number | null;
};

/** Spans and settling days after which it is looked at again, at least. */
const LEAST_WAIT = 35;

/**
 * Query string that fills in the form for a change: page, query, expected result and review day.
 * The expected result is what changes of this type have brought here, never the estimate of the
 * opening, which is a ceiling. With too few readings only the direction is filled in.
 */
export function takeOnQuery(taken: Taken, today: Day): string {
  const { kind, key, path, query, gain, expected, title, daysToShow } = taken;
  const remedy = KINDS[kind].remedy;
  const form = new URLSearchParams({ planned: '1', kind: remedy.kind, day: isoDay(today) });
  if (path) form.set('page', path);
  if (query) form.set('query', query);
  form.set('title', `${remedy.what} ${query ? `“${query}”` : (path ?? '')}`.slice(0, 200));
  if (title && remedy.kind === 'title-rewrite') form.set('old', title);
  if (gain) form.set('metric', expected?.measure ?? remedy.metric);
  const percent = expected ? Math.round(100 * (expected.ratio - 1)) : 0;
  if (gain && percent > 0) form.set('amount', String(percent));
  if (gain) form.set('opening', JSON.stringify({ key, ...gain }));
  form.set('review', isoDay(addDays(today, Math.max(LEAST_WAIT, (daysToShow ?? 28) + 7))));
  return `?${form}`;
}

/** Whether a page says a search, in two or three words. */
export const SAID_WORDS = {
  title: 'in the title',
  h1: 'in the H1',
  heading: 'in a heading',
  text: 'in the text',
  parts: 'in parts',
  nowhere: 'not said',
} as const;
