/* The fields of a change, each described once: forms, API, storage, history and imports follow. */

import { z } from 'zod';
import { lineText, optionalLinkSchema, optionalText } from './fields';
import { settlingDaysSchema, windowDaysSchema } from './site';

/** The usual kinds of on-page change and what they are called. A site may use others of its own. */
export const CHANGE_KINDS = {
  'title-rewrite': 'Title rewrite',
  'meta-description': 'Meta description',
  headings: 'Headings',
  'body-copy': 'Body copy',
  'structured-data': 'Structured data',
  'internal-links': 'Internal links',
  media: 'Media',
  'address-or-redirect': 'Address or redirect',
  'indexing-directives': 'Indexing directives',
  speed: 'Speed',
  'publish-date': 'Publish date',
  'reindex-request': 'Reindex request',
  'off-page': 'Off-page',
  undo: 'Undo',
  other: 'Other',
} as const;

export const changeKindSchema = lineText()
  .min(1, 'Say what kind of change it was.')
  .max(40, 'At most 40 characters.')
  .transform((text) =>
    text
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .replace(/^-|-$/g, ''),
  )
  .refine((slug) => slug !== '', 'Say what kind of change it was.')
  .meta({ description: `One of ${Object.keys(CHANGE_KINDS).join(', ')}, or a word of your own.` });

/** A column of an imported sheet of changes: what it is called here, and its usual headings. */
type SheetColumn = {
  readonly label: string;
  /** Lower case, letters and digits only. */
  readonly headings: readonly string[];
};

/** What every field of a change says about itself. */
type ChangeField = {
  /** What the form calls it. */
  readonly label: string;
  /** What the history calls it; the label in lower case where it is left out. */
  readonly inHistory?: string;
  /** Absent where a sheet cannot have it. */
  readonly sheet?: SheetColumn;
};

/** The control of a field in the form; `siteDefault` has the site's own value as its placeholder. */
type Control = {
  readonly input: 'line' | 'lines' | 'number';
  readonly placeholder?: string;
  readonly siteDefault?: boolean;
};

/** A field that is stored in a column of its name, and read and answered just as it is given. */
type PlainField = ChangeField & {
  readonly schema: z.ZodType;
  /** Of the stored value, as the API answers with it. */
  readonly json: z.ZodType;
  /** Absent where the form draws it by itself. */
  readonly control?: Control;
  /** Whether the reading shows it beside the texts of the change. */
  readonly inReading?: boolean;
  /** Whether the search of the ledger looks in it. */
  readonly searched?: boolean;
};

const nullableText = z.string().nullable();
const nullableNumber = z.int().nullable();

/** Fields stored in a column of their own. A new one needs that column and nothing else. */
export const PLAIN_FIELDS = {
  title: {
    label: 'What was changed',
    schema: lineText().min(1, 'Say in a few words what was changed.').max(200, 'At most 200 characters.'),
    json: z.string(),
    searched: true,
    sheet: {
      label: 'What was changed',
      headings: [
        ...['change', 'changes', 'what', 'whatwaschanged', 'whatchanged', 'description', 'action'],
        ...['task', 'summary', 'title', 'edit'],
      ],
    },
  },
  kind: {
    label: 'Kind',
    schema: changeKindSchema,
    json: z.string(),
    sheet: {
      label: 'Kind',
      headings: ['kind', 'type', 'kindofchange', 'typeofchange', 'changetype', 'category', 'element'],
    },
  },
  oldText: {
    label: 'Old text',
    schema: optionalText(20_000),
    json: nullableText,
    sheet: {
      label: 'Old text',
      headings: [
        ...['old', 'oldtext', 'before', 'oldtitle', 'oldvalue', 'previous', 'from', 'original', 'was'],
        'oldmetatitle',
      ],
    },
  },
  newText: {
    label: 'New text',
    schema: optionalText(20_000),
    json: nullableText,
    sheet: {
      label: 'New text',
      headings: [
        ...['new', 'newtext', 'after', 'newtitle', 'newvalue', 'to', 'updated', 'is', 'newmetatitle'],
        'rewrite',
      ],
    },
  },
  person: {
    label: 'Who',
    schema: optionalText(60),
    json: nullableText,
    searched: true,
    sheet: {
      label: 'Who',
      headings: [
        ...['who', 'person', 'by', 'madeby', 'changedby', 'owner', 'author', 'assignee', 'editor'],
        'initials',
      ],
    },
  },
  note: {
    label: 'Note',
    schema: optionalText(5000),
    json: nullableText,
    control: { input: 'lines' },
    inReading: true,
    searched: true,
    sheet: { label: 'Note', headings: ['note', 'notes', 'comment', 'comments', 'remarks'] },
  },
  link: {
    label: 'Ticket or other link',
    inHistory: 'link',
    schema: optionalLinkSchema,
    json: nullableText,
    control: { input: 'line', placeholder: 'https://…' },
    sheet: {
      label: 'Ticket or link',
      headings: ['ticket', 'link', 'ticketlink', 'ticketurl', 'issue', 'issuelink', 'reference', 'ref'],
    },
  },
  windowDays: {
    label: 'Days in each span',
    schema: windowDaysSchema.nullish().transform((n) => n ?? null),
    json: nullableNumber,
    control: { input: 'number', siteDefault: true },
  },
  settlingDays: {
    label: 'Settling days',
    schema: settlingDaysSchema.nullish().transform((n) => n ?? null),
    json: nullableNumber,
    control: { input: 'number', siteDefault: true },
  },
  followsId: {
    label: 'What it follows',
    schema: z
      .int()
      .positive()
      .nullish()
      .transform((id) => id ?? null)
      .meta({ description: 'The change that this one undoes, reworks or goes on from.' }),
    json: nullableNumber,
  },
} as const satisfies Record<string, PlainField>;

/** Fields that are more than one value, with tables or columns and code of their own. */
const COMPOUND_FIELDS = {
  day: {
    label: 'Day',
    sheet: {
      label: 'Day',
      headings: [
        ...['day', 'date', 'madeon', 'changedon', 'changedate', 'dateofchange', 'datechanged', 'when'],
        ...['livedate', 'datum', 'fecha'],
      ],
    },
  },
  pages: { label: 'Pages' },
  queries: {
    label: 'Queries it is about',
    inHistory: 'queries',
    sheet: {
      label: 'Queries',
      headings: [
        ...['query', 'queries', 'keyword', 'keywords', 'targetquery', 'targetkeyword', 'searchterm'],
      ],
    },
  },
  parts: { label: 'Further edits and texts of pages', inHistory: 'parts' },
  tags: {
    label: 'Tags',
    sheet: { label: 'Tags', headings: ['tags', 'tag', 'labels', 'label', 'round', 'batch'] },
  },
  expectation: { label: 'What is expected', inHistory: 'expectation' },
  planned: { label: 'Still to be made' },
  steps: { label: 'Steps' },
  decision: { label: 'Decision' },
  opening: { label: 'The opening' },
} as const satisfies Record<string, ChangeField>;

export const CHANGE_FIELDS = { ...PLAIN_FIELDS, ...COMPOUND_FIELDS };

export type PlainFieldName = keyof typeof PLAIN_FIELDS;
export const PLAIN_FIELD_NAMES = Object.keys(PLAIN_FIELDS) as PlainFieldName[];

/** The plain fields as they are stored. */
export type PlainValues = {
  readonly [F in PlainFieldName]: z.output<(typeof PLAIN_FIELDS)[F]['schema']>;
};

/** The description of a plain field, with all that it may leave out. */
export const plainField = (name: PlainFieldName): PlainField => PLAIN_FIELDS[name];

/** What a field is called, in the form and in the history. */
export const fieldLabel = (name: keyof typeof CHANGE_FIELDS): string => CHANGE_FIELDS[name].label;
export function historyLabel(name: keyof typeof CHANGE_FIELDS): string {
  const { label, inHistory = label.toLowerCase() }: ChangeField = CHANGE_FIELDS[name];
  return inHistory;
}

/** Something for each plain field, such as its part of a schema. */
export function perPlainField<T>(of: (name: PlainFieldName) => T): Record<PlainFieldName, T> {
  return Object.fromEntries(PLAIN_FIELD_NAMES.map((name) => [name, of(name)])) as Record<PlainFieldName, T>;
}

/** The plain fields of something that has them; null for those that an older record lacks. */
export function plainValuesOf(thing: Partial<PlainValues>): PlainValues {
  return perPlainField((name) => thing[name] ?? null) as PlainValues;
}

/** The part of a schema that the plain fields make up: of what is given, and of what is answered. */
export const PLAIN_SHAPE = perPlainField((name) => PLAIN_FIELDS[name].schema) as {
  [F in PlainFieldName]: (typeof PLAIN_FIELDS)[F]['schema'];
};
export const PLAIN_JSON = perPlainField((name) => PLAIN_FIELDS[name].json) as {
  [F in PlainFieldName]: (typeof PLAIN_FIELDS)[F]['json'];
};
