import { z } from 'zod';
import type { Day } from '../calendar/day';
import { takenOpeningSchema } from './takenOpening';
import { METRICS, type Metric } from '../measures/registry';
import { CHANGE_KINDS, changeKindSchema, PLAIN_SHAPE, type PlainValues } from './changeFields';
import { isoDaySchema, lineText, optionalText } from './fields';
import type { Decision, StepDays } from './steps';

export { CHANGE_KINDS } from './changeFields';

/** What a kind is called; a kind of the site's own is shown as it was written, with its hyphens as spaces. */
export function changeKindName(kind: string): string {
  if (Object.hasOwn(CHANGE_KINDS, kind)) return CHANGE_KINDS[kind as keyof typeof CHANGE_KINDS];
  const words = kind.replaceAll('-', ' ');
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** What several changes of a kind are called. @example changeKindsName('title-rewrite') // "Title rewrites" */
export function changeKindsName(kind: string): string {
  const name = changeKindName(kind);
  return COUNTED_KINDS.includes(kind) ? `${name}s` : name;
}
const COUNTED_KINDS: readonly string[] = [
  'title-rewrite',
  'meta-description',
  'reindex-request',
  'publish-date',
  'undo',
];

/** Kinds of change of which how often a page is chosen is what they are about. */
const ABOUT_APPEAL: readonly string[] = ['title-rewrite', 'meta-description', 'structured-data'];
export const isAboutAppeal = (kind: string): boolean => ABOUT_APPEAL.includes(kind);

/**
 * What is expected of a change, written before the result is known. `amount` is a share for clicks, impressions,
 * CTR and appeal (0.25 is a quarter more or less) and places for position.
 */
export type Expectation = {
  readonly metric: Metric;
  readonly direction: 'up' | 'down';
  readonly amount: number | null;
  readonly reviewDay: Day | null;
};

export type PageRef = { readonly id: number; readonly address: string };

/**
 * A further edit that was made at once with a change, or its texts on one of its pages where they differ from page to page.
 */
export type ChangePart = {
  readonly kind: string;
  /** Null for all pages of the change. */
  readonly page: PageRef | null;
  /** The page's address as it was written with the part, where it was stored. */
  readonly written?: string | null;
  readonly oldText: string | null;
  readonly newText: string | null;
};

/** A logged change. */
export type Change = PlainValues & {
  readonly id: number;
  readonly siteId: number;
  readonly day: Day;
  readonly pages: readonly PageRef[];
  /** The addresses that it was logged with. Which pages they are is for the rules of the site to say. */
  readonly written: readonly string[];
  readonly queries: readonly string[];
  readonly parts: readonly ChangePart[];
  readonly tags: readonly string[];
  readonly expectation: Expectation | null;
  readonly steps: StepDays;
  /** The day on which each step was recorded; absent in histories written before it was kept. */
  readonly recorded?: StepDays;
  readonly decision: Decision | null;
};

/** The kinds of the edits that a change is made of, each once, its own first. */
export function kindsOf({ kind, parts }: Pick<Change, 'kind' | 'parts'>): string[] {
  return [...new Set([kind, ...parts.map((part) => part.kind)])];
}

/** Whether a change gave a page a new text, which the results come to show. */
export function givesText({ newText, parts }: Pick<Change, 'newText' | 'parts'>): boolean {
  return newText !== null || parts.some((part) => part.newText !== null);
}

/** The new title that a change gives a page; null where it gives none. */
export function newTitleOf(change: Change, pageId: number): string | null {
  const { kind, newText, parts } = change;
  const titles = parts.filter((part) => part.kind === 'title-rewrite' && part.newText !== null);
  const own = titles.find(({ page }) => page?.id === pageId) ?? titles.find(({ page }) => page === null);
  return own?.newText ?? (kind === 'title-rewrite' ? newText : null);
}

export const MAX_PAGES_A_CHANGE = 2000;
export const MAX_QUERIES_A_CHANGE = 200;
const MAX_PARTS_A_CHANGE = 2000;
const MAX_TAGS_A_CHANGE = 20;

export const expectationSchema = z.strictObject({
  metric: z.enum(METRICS),
  direction: z.enum(['up', 'down']).default('up').meta({ description: 'Up is better rank for position.' }),
  amount: z
    .number('The expected amount must be a number.')
    .positive('The expected amount must be above 0.')
    .max(1000, 'The expected amount is too large.')
    .nullish()
    .transform((n) => n ?? null)
    .meta({
      description: 'A share (0.25 is a quarter) for clicks, impressions and CTR; places for position.',
    }),
  reviewDay: isoDaySchema.nullish().transform((day) => day ?? null),
});

const partSchema = z.strictObject({
  kind: changeKindSchema,
  page: optionalText(2048).meta({ description: 'One of the pages of the change; absent for all of them.' }),
  oldText: optionalText(20_000),
  newText: optionalText(20_000),
});

const tagSchema = lineText()
  .min(1, 'The tag is empty.')
  .max(40, 'At most 40 characters.')
  .transform((text) => text.toLowerCase().replace(/\s+/g, ' '));

export const newChangeSchema = z.strictObject({
  ...PLAIN_SHAPE,
  day: isoDaySchema,
  pages: z
    .array(z.string().trim().min(1, 'The address is empty.').max(2048))
    .min(1, 'Name at least one page.')
    .max(MAX_PAGES_A_CHANGE, `At most ${MAX_PAGES_A_CHANGE} pages.`)
    .meta({ description: 'Addresses of the site; a path alone is taken as relative to it.' }),
  queries: z
    .array(z.string().trim().min(1, 'The query is empty.').max(500, 'At most 500 characters.'))
    .max(MAX_QUERIES_A_CHANGE, `At most ${MAX_QUERIES_A_CHANGE} queries.`)
    .nullish()
    .transform((list) => list ?? []),
  parts: z
    .array(partSchema)
    .max(MAX_PARTS_A_CHANGE, `At most ${MAX_PARTS_A_CHANGE} parts.`)
    .nullish()
    .transform((list) => list ?? [])
    .meta({ description: 'Further edits made at once, or the texts of each page.' }),
  tags: z
    .array(tagSchema)
    .max(MAX_TAGS_A_CHANGE, `At most ${MAX_TAGS_A_CHANGE} tags.`)
    .nullish()
    .transform((list) => [...new Set(list ?? [])]),
  expectation: expectationSchema.nullish().transform((e) => e ?? null),
  /** The change is still to be made: its day is the one it is planned for. */
  planned: z
    .boolean()
    .nullish()
    .transform((planned) => planned ?? false)
    .meta({
      description: 'Whether the change is still to be made, on the day given.',
    }),
  opening: takenOpeningSchema
    .nullish()
    .transform((taken) => taken ?? null)
    .meta({ description: 'The opening that it is taken on for, as it was estimated then.' }),
});

/** Every field but one may be left out of an edit; what is left out stays as it is. */
export const changeEditSchema = newChangeSchema
  .partial()
  .refine((edit) => Object.keys(edit).length > 0, 'The edit names no field.');

export type NewChange = z.infer<typeof newChangeSchema>;
export type NewChangeInput = z.input<typeof newChangeSchema>;
