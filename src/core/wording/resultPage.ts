/* A result page: what a search showed on a day. */

import { z } from 'zod';
import { DEVICES } from '../intake/rowReader';
import { isoDaySchema, lineText } from '../model/fields';
import type { Day } from '../calendar/day';

/** What is compared: the titles of the results, or their descriptions. */
export const WORDED = ['title', 'description'] as const;
export type Worded = (typeof WORDED)[number];

/** What can be compared besides: the first H1 of each page, where it was fetched. */
export const COMPARED_TEXTS = [...WORDED, 'h1'] as const;
export type ComparedText = (typeof COMPARED_TEXTS)[number];

/** What a result is. */
export const RESULT_KINDS = [
  ...(['page', 'shop', 'list', 'forum', 'video'] as const),
  ...(['image', 'news', 'local', 'tool', 'brand'] as const),
] as const;
export type ResultKind = (typeof RESULT_KINDS)[number];
export const RESULT_KIND_NAMES: Readonly<Record<ResultKind, string>> = {
  page: 'page',
  shop: 'shop',
  list: 'list',
  forum: 'forum',
  video: 'video',
  image: 'image',
  news: 'news',
  local: 'local',
  tool: 'tool',
  brand: 'brand’s own',
};

/** What a result carries besides its title and description. */
export const RESULT_EXTRAS = ['stars', 'price', 'answers', 'image', 'video', 'links'] as const;
export type ResultExtra = (typeof RESULT_EXTRAS)[number];
export const RESULT_EXTRA_NAMES: Readonly<Record<ResultExtra, string>> = {
  stars: 'stars',
  price: 'price',
  answers: 'questions and answers',
  image: 'image',
  video: 'video',
  links: 'further links',
};

/** What stands above the results. */
export const ABOVE_KINDS = ['answer-quoted', 'answer-generated', 'shopping', 'map', 'videos'] as const;
export type AboveKind = (typeof ABOVE_KINDS)[number];
export const ABOVE_NAMES: Readonly<Record<AboveKind, string>> = {
  'answer-quoted': 'a quoted answer',
  'answer-generated': 'a generated answer',
  shopping: 'shopping',
  map: 'a map',
  videos: 'videos',
};

export type Result = {
  readonly rank: number;
  readonly address: string;
  readonly title: string;
  readonly description: string | null;
  /** As it was said; null where nobody did. */
  readonly kind: ResultKind | null;
  /** The date as it was shown; null where none was. */
  readonly dateShown: string | null;
  readonly extras: readonly ResultExtra[];
};

/** An element above the results, and whether it shows our page; null if unknown. */
export type Above = { readonly kind: AboveKind; readonly own: boolean | null };

/** What a search showed on a day. */
export type ResultPage = {
  readonly id: number;
  readonly siteId: number;
  readonly query: { readonly id: number; readonly text: string };
  readonly day: Day;
  /** The code of the device; 0 where it does not matter. */
  readonly device: number;
  readonly results: readonly Result[];
  readonly above: readonly Above[];
  /** Which of one's own questions were shown. */
  readonly ownQuestions: readonly string[];
  /** Questions that people ask, and related searches. */
  readonly asked: readonly string[];
  readonly related: readonly string[];
  /** Words that the results print bold. */
  readonly bold: readonly string[];
};

/** More results are no page that anybody looks at. */
export const MOST_RESULTS = 100;

const address = z
  .string()
  .trim()
  .max(2048, 'An address has at most 2,048 characters.')
  .refine(
    (text) => /^https?:\/\/[^\s/]/i.test(text) && URL.canParse(text),
    'An address begins with https:// and names a host.',
  );

const text = (most: number, what: string) =>
  lineText().max(most, `${what} has at most ${most.toLocaleString('en-GB')} characters.`);
const optional = (most: number, what: string) =>
  text(most, what)
    .nullish()
    .transform((given) => given || null);
const lines = z.array(text(500, 'A line').min(1)).max(100, 'At most 100 lines.').default([]);

export const resultSchema = z.strictObject({
  rank: z
    .int('A rank is a whole number.')
    .min(1, 'The first rank is 1.')
    .max(1000, 'The last rank is 1,000.'),
  address,
  title: text(500, 'A title').min(1, 'A result needs a title.'),
  description: optional(2000, 'A description'),
  kind: z
    .enum(RESULT_KINDS)
    .nullish()
    .transform((kind) => kind ?? null),
  dateShown: optional(60, 'A date'),
  extras: z.array(z.enum(RESULT_EXTRAS)).max(RESULT_EXTRAS.length).default([]),
});

export const newResultPageSchema = z.strictObject({
  query: text(500, 'A query').min(1, 'Which query was searched for?').toLowerCase(),
  day: isoDaySchema,
  device: z.enum(Object.keys(DEVICES) as [keyof typeof DEVICES, ...(keyof typeof DEVICES)[]]).optional(),
  results: z
    .array(resultSchema)
    .min(1, 'There is no result in it.')
    .max(MOST_RESULTS, `At most ${MOST_RESULTS} results; the first ${MOST_RESULTS} say all there is to see.`)
    .refine(
      (results) => new Set(results.map(({ rank }) => rank)).size === results.length,
      'Two results have the same rank.',
    )
    .transform((results) => [...results].sort((a, b) => a.rank - b.rank)),
  above: z
    .array(z.strictObject({ kind: z.enum(ABOVE_KINDS), own: z.boolean().nullable().default(null) }))
    .max(ABOVE_KINDS.length)
    .default([]),
  ownQuestions: lines,
  asked: lines,
  related: lines,
  bold: lines,
});
export type NewResultPage = z.output<typeof newResultPageSchema>;
