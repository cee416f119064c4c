import { addDays, isoDay, parseIsoDay, type Day } from '@/core/calendar/day';
import { pagePath } from '@/core/address/address';
import { kindsOf, type Difference } from '@/core/markup/differences';
import { CHANGE_KINDS, changeKindName, type Change, type NewChangeInput } from '@/core/model/change';
import {
  CHANGE_FIELDS,
  fieldLabel,
  PLAIN_FIELD_NAMES,
  plainField,
  type PlainFieldName,
} from '@/core/model/changeFields';
import { changeInputOf } from '@/core/changes/changeInput';
import { METRICS, type Metric } from '@/core/measures/registry';
import { takenOpeningSchema, type TakenOpening } from '@/core/model/takenOpening';
import type { FormCodec } from '../kit/useEntityForm';

/** A further edit made at once, as it is typed; an empty page stands for all of them. */
export type PartValues = { kind: string; page: string; oldText: string; newText: string };

/** What the form for a change holds: everything as it is typed. */
export type ChangeFormValues = Record<TypedPlainField, string> & {
  /** What a custom kind is called, where `kind` is OWN_KIND. */
  ownKind: string;
  day: string;
  pages: string[];
  queries: string;
  parts: PartValues[];
  /** Divided by commas. */
  tags: string;
  metric: Metric | '';
  direction: 'up' | 'down';
  amount: string;
  reviewDay: string;
  /** Still to be made, on the day given. */
  planned: boolean;
  followsId: number | null;
  /** The opening that it is taken on for. */
  opening: TakenOpening | null;
};

/** The plain fields that somebody types; which change another one follows is for the form to say. */
type TypedPlainField = Exclude<PlainFieldName, 'followsId'>;

const TYPED_PLAIN = PLAIN_FIELD_NAMES.filter((name): name is TypedPlainField => name !== 'followsId');

/** A value for each of them. */
function perTypedField<T>(of: (name: TypedPlainField) => T): Record<TypedPlainField, T> {
  return Object.fromEntries(TYPED_PLAIN.map((name) => [name, of(name)])) as Record<TypedPlainField, T>;
}

/** Stands in the choice of kinds for one that is not among them. */
export const OWN_KIND = 'another-kind';

/** How long a change is usually given before it is judged: common practice, no published source. */
const REVIEW_AFTER_DAYS = 30;

export function emptyForm(today: Day): ChangeFormValues {
  return {
    ...perTypedField(() => ''),
    ...{ kind: 'title-rewrite', ownKind: '', day: isoDay(today), pages: [], queries: '', parts: [] },
    ...{ tags: '', metric: '', direction: 'up', amount: '', reviewDay: '' },
    ...{ planned: false, followsId: null, opening: null },
  };
}

/** What a change says, as the form shows it. */
export function typedOf(input: NewChangeInput): ChangeFormValues {
  const { expectation } = input;
  return {
    ...perTypedField((name) => input[name]?.toString() ?? ''),
    ...{ ownKind: '', day: input.day, pages: [...input.pages] },
    queries: (input.queries ?? []).join('\n'),
    parts: (input.parts ?? []).map(({ kind, page, oldText, newText }) => ({
      ...{ kind, page: page ?? '', oldText: oldText ?? '', newText: newText ?? '' },
    })),
    tags: (input.tags ?? []).join(', '),
    metric: expectation?.metric ?? '',
    direction: expectation?.direction ?? 'up',
    amount: expectation?.amount == null ? '' : amountText(expectation.metric, expectation.amount),
    reviewDay: expectation?.reviewDay ?? '',
    planned: input.planned ?? false,
    followsId: input.followsId ?? null,
    opening: input.opening ?? null,
  };
}

/** A stored change as the form shows it. */
export const formOf = (change: Change): ChangeFormValues => typedOf(changeInputOf(change));

/** The form for the change that undoes, reworks or repeats another one: on the same pages, linked to it. */
export function formAfter(change: Change, as: 'undo' | 'rework' | 'copy', today: Day): ChangeFormValues {
  const form = { ...formOf(change), day: isoDay(today), reviewDay: '', planned: false };
  if (as === 'copy')
    return { ...form, pages: [], followsId: null, parts: form.parts.filter(({ page }) => page === '') };
  const parts = form.parts.map((part) => ({
    ...part,
    kind: as === 'undo' ? 'undo' : part.kind,
    oldText: part.newText,
    newText: as === 'undo' ? part.oldText : '',
  }));
  const linked = { ...form, parts, followsId: change.id, link: '', note: '', oldText: form.newText };
  return as === 'undo'
    ? {
        ...linked,
        title: `Undo: ${change.title}`.slice(0, 200),
        kind: 'undo',
        newText: form.oldText,
        metric: '',
        amount: '',
      }
    : { ...linked, title: `${change.title}, reworked`.slice(0, 200), newText: '' };
}

/** The form for a change that was found on a page and that nobody logged: all that differs, as one change. */
export function formFound(
  address: string,
  foundOn: Day,
  differences: readonly Difference[],
): ChangeFormValues {
  const [first, ...others] = differences.map(({ kind, before, after }) => ({
    kind,
    page: '',
    oldText: before ?? '',
    newText: after ?? '',
  }));
  return {
    ...emptyForm(foundOn),
    ...(first ? { kind: first.kind, oldText: first.oldText, newText: first.newText } : {}),
    title: `${kindsOf(differences)}, found on ${pagePath(address)}`.slice(0, 200),
    pages: [pagePath(address)],
    parts: others,
  };
}

/** What an address of the form may fill in, each under its name. */
export type GivenInAddress = {
  readonly page: string;
  readonly query: string;
  readonly title: string;
  readonly old: string;
  readonly new: string;
  readonly kind: string;
  readonly day: string;
  /** An expectation: its metric, its amount in percent or places, and the review day. */
  readonly metric: string;
  readonly amount: string;
  readonly review: string;
  /** Anything but nothing says that it is still to be made. */
  readonly planned: string;
  /** The opening that it is taken on for, as JSON. */
  readonly opening: string;
};

type Given = Partial<Omit<GivenInAddress, 'page'>> & { readonly pages: readonly string[] };

const LONGEST_TEXT = 20_000;

/** The form with what an address names filled in; what makes no sense is left as it is usual. */
export function formGiven(given: Given, today: Day): ChangeFormValues {
  const empty = emptyForm(today);
  const text = (value: string | undefined, most = LONGEST_TEXT) => (value ?? '').trim().slice(0, most);
  const kind = text(given.kind, 40);
  const usual = kind === '' || Object.hasOwn(CHANGE_KINDS, kind);
  return {
    ...empty,
    title: text(given.title, 200),
    pages: [...new Set(given.pages)],
    queries: text(given.query, 500),
    oldText: text(given.old),
    newText: text(given.new),
    kind: kind === '' ? empty.kind : usual ? kind : OWN_KIND,
    ownKind: usual ? '' : kind,
    day: given.day !== undefined && parseIsoDay(given.day) !== null ? given.day : empty.day,
    ...(METRICS.some((metric) => metric === given.metric)
      ? { metric: given.metric as Metric, direction: 'up' as const, amount: text(given.amount, 20) }
      : {}),
    reviewDay:
      given.review !== undefined && parseIsoDay(given.review) !== null ? given.review : empty.reviewDay,
    planned: text(given.planned, 5) !== '',
    opening: openingGiven(given.opening),
  };
}

/** The opening that an address names; null where it names none. */
function openingGiven(text: string | undefined): TakenOpening | null {
  try {
    return takenOpeningSchema.safeParse(JSON.parse(text ?? 'null')).data ?? null;
  } catch {
    return null;
  }
}

/** Shares are typed in percent, places as they are. */
function amountText(metric: Metric, amount: number): string {
  return String(metric === 'position' ? amount : Number((amount * 100).toPrecision(12)));
}

function numberOrNull(text: string): number | null {
  const trimmed = text.trim().replace(',', '.').replace(/%$/, '');
  return trimmed === '' ? null : Number(trimmed);
}

/** The plain fields as they are sent: numbers as numbers, everything else as it is typed. */
function inputOfPlain(values: ChangeFormValues) {
  const sent = perTypedField((name) =>
    plainField(name).control?.input === 'number' ? numberOrNull(values[name]) : values[name],
  );
  return sent as Pick<NewChangeInput, TypedPlainField>;
}

/** What is sent: the same fields as the HTTP interface takes. */
export function inputOf(values: ChangeFormValues): NewChangeInput {
  const amount = numberOrNull(values.amount);
  return {
    ...inputOfPlain(values),
    ...{ day: values.day, pages: values.pages },
    kind: values.kind === OWN_KIND ? values.ownKind : values.kind,
    queries: values.queries
      .split('\n')
      .map((line) => line.trim())
      .filter(Boolean),
    parts: values.parts.map(({ page, ...part }) => ({ ...part, page: page.trim() || null })),
    tags: values.tags
      .split(',')
      .map((tag) => tag.trim())
      .filter(Boolean),
    expectation:
      values.metric === ''
        ? null
        : {
            metric: values.metric,
            direction: values.direction,
            amount: amount === null || values.metric === 'position' ? amount : amount / 100,
            reviewDay: values.reviewDay || null,
          },
    planned: values.planned,
    followsId: values.followsId,
    opening: values.opening,
  };
}

const FIELDS_OF_EXPECTATION = ['metric', 'direction', 'amount', 'reviewDay'] as const;

/** The fields of the form in which a field of the input is typed. */
export function typedIn(field: string): readonly (keyof ChangeFormValues)[] {
  if (field === 'expectation') return FIELDS_OF_EXPECTATION;
  return field === 'kind' ? ['kind', 'ownKind'] : [field as keyof ChangeFormValues];
}

/** What a field of the input is called, and what stands in it, for somebody who has to choose between two. */
export function fieldInWords(field: string, values: ChangeFormValues): { name: string; text: string } {
  const name = Object.hasOwn(CHANGE_FIELDS, field) ? fieldLabel(field as keyof NewChangeInput) : field;
  const text = typedIn(field)
    .map((one) => values[one])
    .filter((value) => value !== '' && value !== null)
    .map((value) =>
      Array.isArray(value)
        ? value
            .map((one) => (typeof one === 'string' ? one : [one.page, one.oldText, one.newText].join(' · ')))
            .join('\n')
        : typeof value === 'boolean'
          ? value
            ? 'yes'
            : 'no'
          : field === 'kind'
            ? changeKindName(String(value))
            : String(value),
    )
    .join(' ');
  return { name, text };
}

/** The review day that is offered for a change made on `day`; empty where that is no day. */
export function usualReviewDay(day: string): string {
  const made = parseIsoDay(day);
  return made === null ? '' : isoDay(addDays(made, REVIEW_AFTER_DAYS));
}

/** The field of the form that a complaint about a field of the input belongs to. */
export function formField(field: string, own = false): keyof ChangeFormValues | 'root' {
  const [head, part] = field.split('.');
  if (head === 'kind' && own) return 'ownKind';
  if (head === 'expectation') return (part as keyof ChangeFormValues | undefined) ?? 'metric';
  return (head as keyof ChangeFormValues) || 'root';
}

/** How what is typed of a change is sent. */
export const CHANGE_CODEC: FormCodec<ChangeFormValues, NewChangeInput> = {
  toSent: inputOf,
  toTyped: typedOf,
  fieldOf: (field, { kind }) => formField(field, kind === OWN_KIND),
  typedIn,
};

/** The kinds on offer: the usual ones, then those the site has used besides. */
export function kindChoices(used: readonly string[]): { value: string; name: string }[] {
  const own = [...new Set(used)].filter((kind) => !Object.hasOwn(CHANGE_KINDS, kind)).sort();
  return [...Object.keys(CHANGE_KINDS), ...own].map((value) => ({ value, name: changeKindName(value) }));
}

/** What a paste into the list of pages says: pages, and the old and new text of each where it has further columns. */
export type PastedPages = { readonly pages: string[]; readonly texts: Omit<PartValues, 'kind'>[] };

/**
 * Reads a pasted list, a page a line; from a table, further columns are the new text, or the old and the new. A line of names
 * of columns is left out. Null where it is a single line without further columns, which is pasted as text.
 */
export function pastedPages(text: string): PastedPages | null {
  const rows = text
    .split(/\r\n|\r|\n/)
    .map((line) => line.split('\t').map((cell) => cell.trim()))
    .filter(([page]) => page && !/^(?:pages?|address(?:es)?|urls?)$/i.test(page));
  if (rows.length === 0 || (rows.length === 1 && rows[0]!.length === 1)) return null;
  const texts = rows
    .filter((row) => row.length > 1)
    .map(([page = '', ...rest]) => {
      const [oldText, newText] = rest.length === 1 ? ['', rest[0]!] : [rest[0]!, rest[1]!];
      return { page, oldText, newText };
    });
  return { pages: rows.map(([page]) => page!), texts };
}
