/* A planned change out of an opening: what is filled in of it. */

import { addDays, isoDay, type Day } from '../calendar/day';
import type { Gain, OpeningKind } from './model';
import { REMEDIES } from './sentence';

export type Taken = {
  readonly kind: OpeningKind;
  readonly key: string;
  readonly path: string | null;
  readonly query: string | null;
  readonly gain: Gain | null;
  /** The page's title as it is. */
  readonly title: string | null;
  /** Clicks of the page in the last thirty days. */
  readonly clicksNow: number;
  readonly daysToShow: number | null;
};

/** Spans and settling days after which it is looked at again, at least. */
const LEAST_WAIT = 35;

/** The query of the form's address that fills it in: page, query, what is expected and when to look again. */
export function takeOnQuery(taken: Taken, today: Day): string {
  const { kind, key, path, query, gain, title, clicksNow, daysToShow } = taken;
  const remedy = REMEDIES[kind];
  const form = new URLSearchParams({ planned: '1', kind: remedy.kind, day: isoDay(today) });
  if (path) form.set('page', path);
  if (query) form.set('query', query);
  form.set('title', `${remedy.what} ${query ? `“${query}”` : (path ?? '')}`.slice(0, 200));
  if (title && remedy.kind === 'title-rewrite') form.set('old', title);
  if (gain && clicksNow > 0) {
    form.set('metric', remedy.metric);
    form.set('amount', String(Math.max(1, Math.round((100 * gain.clicks) / clicksNow))));
  }
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
