/* What an opening rests on, in a sentence. */

import { pagePath } from '../address/address';
import type { Day } from '../calendar/day';
import { count, mediumDay, metricValue, percentChange, plural, share } from '../words/format';
import type { Opening } from './opening';
import type { NamedOpening } from './named';
import type { Said } from '../words/termsOnPage';

/** What a sentence names besides figures. */
export type Named = {
  /** Of a query that is shared, its pages with their parts; of a page without links, those that could link to it. */
  readonly pages?: readonly {
    readonly path: string;
    readonly share?: number;
    readonly led?: number;
    readonly position?: number;
  }[];
  readonly said?: Said;
  readonly words?: readonly string[];
  readonly findings?: readonly string[];
  /** When it declined, its part of the site where that fell too, and events noted about then. */
  readonly day?: Day;
  readonly part?: { readonly name: string; readonly ratio: number } | null;
  readonly events?: readonly string[];
};

const list = (items: readonly string[]) =>
  items.length < 2 ? items.join('') : `${items.slice(0, -1).join(', ')} and ${items.at(-1)}`;
const quoted = (words: readonly string[]) => list(words.map((word) => `“${word}”`));

/** The evidence of an opening, as a client could read it. */
export function openingSentence(
  { kind, figures }: Pick<Opening, 'kind' | 'figures'>,
  named: Named = {},
): string {
  const of = (name: string) => figures[name] ?? 0;
  const { pages = [], said, words = [], findings = [] } = named;
  switch (kind) {
    case 'chosen-too-little':
      return `Chosen ${share(1 - of('appeal') / of('usual'))} less often than is usual here at the same searches and positions: ${count(of('clicks'))} clicks where ${count(of('expected'))} would be usual.`;
    case 'within-reach':
      return `Seen ${plural(of('impressions'), 'time')} at ${metricValue('position', of('position'))}; what position ${of('target')} would bring. Rules of thumb say ${count(of('ceiling'))} clicks (all seen, at 20%) and weigh it ${count(of('potential'))} (impressions × position).`;
    case 'unsaid':
      return said && said.missing.length > 0
        ? `Shown ${plural(of('impressions'), 'time')} for it at ${metricValue('position', of('position'))}, and says ${quoted(said.missing)} nowhere.`
        : `Shown ${plural(of('impressions'), 'time')} for it at ${metricValue('position', of('position'))}; its words stand in the page, but nowhere together.`;
    case 'shared':
      return `${list(pages.map(({ path }) => path))} take turns: ${list(pages.map((page) => share(page.share ?? 0)))} of ${plural(of('impressions'), 'showing')}, leading on ${list(pages.map((page) => share(page.led ?? 0)))} of the days, at ${list(pages.map((page) => metricValue('position', page.position ?? null)))}.`;
    case 'slipped':
      return declineSentence(of('ratio'), named);
    case 'unlinked':
      return pages.length > 0
        ? `Linked from ${plural(of('linkedFrom'), 'page')}; ${list(pages.map(({ path }) => path))} ${pages.length === 1 ? 'speaks' : 'speak'} of the same and ${pages.length === 1 ? 'does' : 'do'} not link to it${words.length > 0 ? `: ${quoted(words)}` : ''}.`
        : `No page of the site links to it, as far as they were fetched.`;
    case 'out-of-order':
      return findings.join(' ');
    case 'visited-not-bought':
      return `${plural(of('sessions'), 'visit')} and ${plural(of('conversions'), 'conversion')}, where ${count(of('usual'))} would be usual on pages like it: further off than chance allows.`;
  }
}

/** @example "Fell by 41% in a step about 28 Sep 2026, as the rest of /shop/ did (−34%), near “Clover update”." */
function declineSentence(ratio: number, { day, part, events = [] }: Named): string {
  const when = day === undefined ? '' : ` about ${mediumDay(day)}`;
  const near = events.length > 0 ? ` It was near ${quoted(events.slice(0, 2))}.` : '';
  const shared = part
    ? `, as the rest of ${part.name} did (${percentChange(part.ratio)} beside the other parts of the site).`
    : ' that the rest of the site did not share.';
  return `Fell by ${share(1 - ratio)} in a step${when}${shared}${near}`;
}

/** What an opening is about: its page, its search, or its search on its page. */
export function nameOf({ page, query, kind }: Pick<NamedOpening, 'page' | 'query' | 'kind'>): string {
  const path = page ? pagePath(page.address) : '';
  if (!query) return path;
  return kind === 'shared' || !page ? `“${query.text}”` : `“${query.text}” on ${path}`;
}

/** What is to be done about an opening of a kind, in two or three words. */
export const OPENING_NAMES = {
  'chosen-too-little': 'chosen too little',
  'within-reach': 'within reach',
  unsaid: 'unsaid',
  shared: 'shared',
  slipped: 'slipped',
  unlinked: 'unlinked',
  'out-of-order': 'out of order',
  'visited-not-bought': 'visited, not bought',
} as const;

/** The kind of change that an opening calls for, and the metric that it would show in. */
export const REMEDIES = {
  'chosen-too-little': { kind: 'title-rewrite', metric: 'appeal', what: 'Title that is chosen more often' },
  'within-reach': { kind: 'body-copy', metric: 'clicks', what: 'Say more of' },
  unsaid: { kind: 'headings', metric: 'clicks', what: 'Say' },
  shared: { kind: 'internal-links', metric: 'clicks', what: 'One page for' },
  slipped: { kind: 'body-copy', metric: 'clicks', what: 'Win back' },
  unlinked: { kind: 'internal-links', metric: 'clicks', what: 'Links to' },
  'out-of-order': { kind: 'other', metric: 'clicks', what: 'Put in order' },
  'visited-not-bought': { kind: 'body-copy', metric: 'clicks', what: 'What visitors do on' },
} as const satisfies Record<Opening['kind'], { kind: string; metric: string; what: string }>;
