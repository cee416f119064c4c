import { type Span } from '../../core/calendar/span';
import { pagePath } from '../../core/address/address';
import { type Change } from '../../core/model/change';
import type { Report } from '../../core/model/report';
import { type Round } from '../../core/model/round';
import type { Reading } from '../../core/reading/readingModel';
import { type ReportCell, type ReportPart } from '../../core/model/reportContent';
import { type TurnReading } from '../../core/rounds/reading';
import { plural } from '../../core/words/format';
import type { Engines } from '../site/engines';
import type { QueryPages } from '../figures/queryPages';
import type { Books } from '../scorebook/books';
import type { SiteContext } from '../site/siteContext';

/** What reports are built with. */
export type ReportTools = {
  readonly engines: Engines;
  readonly queryPages: QueryPages;
  readonly books: Books;
};

export const YEAR_DAYS = 364;
export const cell = (text: string, value: number | string | null = text): ReportCell => ({ text, value });
export const columns = (...names: readonly (readonly [name: string, figures?: boolean])[]) =>
  names.map(([name, figures = false]) => ({ name, figures }));

/** What a report is about: pages (null for all of the site), changes and rounds, and how it is called. */
export type Scope = {
  readonly about: string;
  readonly pageIds: readonly number[] | null;
  readonly changes: readonly Change[];
  readonly rounds: readonly Round[];
};

export type Turn = { readonly round: Round; readonly turn: TurnReading };
export type Work = {
  readonly context: SiteContext;
  readonly tools: ReportTools;
  readonly report: Pick<Report, 'leaveOut'>;
  readonly span: Span;
  readonly scope: Scope;
  /** Changes that are no half of a round. */
  readonly readings: readonly Reading[];
  readonly turns: readonly Turn[];
};
export type Said = Pick<ReportPart, 'sentences'> & Partial<Pick<ReportPart, 'tables' | 'strips'>>;

export const showsPeople = ({ report }: Work) => !report.leaveOut.includes('people');
export const showsPages = ({ report }: Work) => !report.leaveOut.includes('pages');
export const showsMoney = ({ report }: Work) => !report.leaveOut.includes('money');

export const pagesText = (work: Work, pages: readonly { readonly address: string }[]): string => {
  const [only] = pages;
  return showsPages(work) && only && pages.length === 1
    ? pagePath(only.address)
    : plural(pages.length, 'page');
};

/** How often each of some words is there, the most frequent first. */
export function countedBy(words: readonly string[]): [word: string, n: number][] {
  const counts = new Map<string, number>();
  for (const word of words) counts.set(word, (counts.get(word) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]));
}
