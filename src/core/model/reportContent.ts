/* What a report says: parts made of sentences first, then tables, then strips. */

import type { Day } from '../calendar/day';
import type { Span } from '../calendar/span';
import type { Metric } from '../measures/registry';

/** The parts of a report in their usual order, and what they are called. */
export const REPORT_PARTS = {
  traffic: 'What happened to the search traffic',
  changes: 'What was changed, and what came of it',
  together: 'What came of it together',
  worth: 'What it is worth',
  learned: 'What was learned and decided',
  waiting: 'What is being waited for',
  next: 'What is next',
  glossary: 'How to read this',
} as const;
export type ReportPartKey = keyof typeof REPORT_PARTS;
export const REPORT_PART_KEYS = Object.keys(REPORT_PARTS) as ReportPartKey[];

/** What can be left out for a reader from outside. */
export const LEFT_OUT = { people: 'names of people', pages: 'names of pages', money: 'money' } as const;
export type LeftOutOfReport = keyof typeof LEFT_OUT;

/** A cell of a table: as it is written, and the figure behind it, which is that of the interface for scripts. */
export type ReportCell = { readonly text: string; readonly value: number | string | null };
export type ReportTable = {
  readonly title: string;
  readonly columns: readonly { readonly name: string; readonly figures: boolean }[];
  readonly rows: readonly (readonly ReportCell[])[];
};

/** Strips of days as they are drawn: the same values as on screen. */
export type ReportStrips = {
  readonly title: string;
  readonly shown: Span;
  readonly strips: readonly { readonly metric: Metric; readonly values: readonly (number | null)[] }[];
  readonly changes: readonly { readonly day: Day; readonly title: string }[];
  readonly events: readonly (Span & { readonly name: string })[];
};

export type ReportPart = {
  readonly key: ReportPartKey;
  readonly heading: string;
  readonly sentences: readonly string[];
  readonly tables: readonly ReportTable[];
  readonly strips: ReportStrips | null;
};

/** A whole report as its figures stood on a day. */
export type ReportContent = {
  readonly title: string;
  readonly site: string;
  readonly address: string;
  readonly span: Span;
  /** What it is about, in words. */
  readonly about: string;
  /** The day on which its figures were read, and the newest day of them. */
  readonly readOn: Day;
  readonly figuresTo: Day | null;
  readonly parts: readonly ReportPart[];
};

/** One's own words before and after a part; they stay when figures are read anew. */
export type ReportWords = Readonly<
  Partial<Record<ReportPartKey, { readonly before: string; readonly after: string }>>
>;

/** Colours for headings and rules within the look. */
export const REPORT_INKS = { ink: '#22201b', petrol: '#0b5a63', rust: '#9c3a17', ochre: '#805400' } as const;
export type ReportInk = keyof typeof REPORT_INKS;

/** A report as it is shown: its content, one's own words, and how it looks. */
export type ShownReport = {
  readonly content: ReportContent;
  readonly words: ReportWords;
  readonly ink: ReportInk;
  /** A logo as a data address; null where there is none. */
  readonly logo: string | null;
  /** Which issue of it this is; null for one that is not issued. */
  readonly issue: { readonly number: number; readonly day: Day } | null;
  /** What changed since the issue before, in sentences. */
  readonly changed: readonly string[];
};
