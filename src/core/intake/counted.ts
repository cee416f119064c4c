import type { ColumnMapping, Field } from './columns';

/*
 * Some columns split figures into kinds of which only one is wanted: the channel of a session, the
 * search type. People choose which values count; rows of other values are left out, neither refused
 * nor summed.
 */

/** Columns whose values say which rows count. */
export const CHOICES = ['channel', 'searchType'] as const satisfies readonly Field[];
export type Choice = (typeof CHOICES)[number];

/** Values that count, in plain form, by column; the usual ones if none are stated. */
export type Counted = Partial<Record<Choice, readonly string[]>>;

/** A value as it is compared: without case and surrounding space. */
export function plainValue(text: string): string {
  return text.trim().toLowerCase();
}

/** Values that count unless somebody says otherwise. */
const USUALLY: Record<Choice, (plain: string) => boolean> = {
  channel: (plain) => plain.includes('organic'),
  searchType: (plain) => /^web\b/.test(plain),
};

/**
 * Tells by the value of a choice column whether a row counts.
 * @example counting('channel', undefined)('Google / organic') // true
 */
export function counting(choice: Choice, stated: readonly string[] | undefined): (text: string) => boolean {
  if (!stated) return (text) => USUALLY[choice](plainValue(text));
  const values = new Set(stated.map(plainValue));
  return (text) => values.has(plainValue(text));
}

/** The choice columns that a file has. */
export function choicesIn(mapping: ColumnMapping): Choice[] {
  return CHOICES.filter((choice) => mapping[choice] != null);
}

/** How the rows of a file meet what counts, by the values of one of its columns. */
export type ChoiceFound = {
  readonly choice: Choice;
  /** The values met, those of most rows first, as they are written; and whether each counts. */
  readonly values: readonly { readonly value: string; readonly rows: number; readonly counts: boolean }[];
  /** Whether there are more values than are listed. */
  readonly more: boolean;
};

/** Values of one column that are listed for people to choose from. */
const MOST_VALUES = 60;

/** Counts the values of a choice column. */
export class ChoiceCount {
  private readonly found = new Map<string, { value: string; rows: number }>();
  private readonly counts: (text: string) => boolean;
  private more = false;

  constructor(
    private readonly choice: Choice,
    stated: readonly string[] | undefined,
  ) {
    this.counts = counting(choice, stated);
  }

  add(text: string): void {
    const plain = plainValue(text);
    const known = this.found.get(plain);
    if (known) known.rows++;
    else if (this.found.size < MOST_VALUES) this.found.set(plain, { value: text.trim(), rows: 1 });
    else this.more = true;
  }

  finding(): ChoiceFound {
    const values = [...this.found.values()]
      .map((one) => ({ ...one, counts: this.counts(one.value) }))
      .sort((a, b) => b.rows - a.rows || (a.value < b.value ? -1 : 1));
    return { choice: this.choice, values, more: this.more };
  }
}
