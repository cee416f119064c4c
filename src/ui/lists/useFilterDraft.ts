'use client';

import { usePathname, useRouter } from 'next/navigation';
import { useState } from 'react';
import { altered, boundNames, type Parameters } from '@/core/lists/address';
import { COLUMNS, type Column } from '@/core/lists/columns';

type Values = Readonly<Record<string, string>>;
type Days = { readonly from: string; readonly to: string };

/**
 * Fields of the filter bar, by the names of their parameters; `column`, `min` and `max` are the
 * range that is being typed.
 */
export type FilterDraft = {
  /** What a field shows. */
  readonly value: (name: string) => string;
  /** Keeps what is typed, without applying it. */
  readonly put: (edit: Values) => void;
  /** Applies a choice at once, and with it all that was typed. Null takes a parameter away. */
  readonly set: (edit: Readonly<Record<string, string | null>>) => void;
  readonly apply: () => void;
  /** Whether a field, or any of them, holds what is not applied yet. */
  readonly pending: (name?: string) => boolean;
};

/** The value of a parameter as it is applied, empty where it is absent. */
export function applied(parameters: Parameters, name: string): string {
  const value = parameters[name];
  return typeof value === 'string' ? value : '';
}

const SPAN = /^\d{4}-\d\d-\d\d\.\.\d{4}-\d\d-\d\d$/;
export const isSpan = (against: string): boolean => SPAN.test(against);

/** Whether a column is typed in percent. */
export const isPercent = (column: Column): boolean =>
  ['ctr', 'share', 'points'].includes(COLUMNS[column].form);

/**
 * The draft of a filter bar. Whatever is applied takes all drafts with it, so that nothing that is
 * visible is dropped; what is typed while an answer is on its way stays.
 */
export function useFilterDraft(parameters: Parameters, days: Days, was: Days | null): FilterDraft {
  const router = useRouter();
  const path = usePathname();
  const [draft, setDraft] = useState<Values>({});
  const [sent, setSent] = useState<Values | null>(null);
  const here = JSON.stringify(parameters);
  const [shown, setShown] = useState(here);
  if (here !== shown) {
    setShown(here);
    setSent(null);
    // Back and links from elsewhere drop what was typed; an answer drops what was sent.
    setDraft(
      sent === null
        ? {}
        : Object.fromEntries(Object.entries(draft).filter(([name, text]) => sent[name] !== text)),
    );
  }
  const standing: Values = {
    ...{ from: days.from, to: days.to, wasFrom: was?.from ?? '', wasTo: was?.to ?? '' },
    ...{ column: 'clicks', min: '', max: '' },
  };
  const isIn = (name: string) => Object.hasOwn(draft, name);
  const before = (name: string) =>
    Object.hasOwn(standing, name) ? standing[name]! : applied(parameters, name);
  const value = (name: string) => (isIn(name) ? draft[name]! : before(name));
  const pending = (name?: string): boolean =>
    name === undefined
      ? Object.keys(draft).some((one) => one !== 'column' && pending(one))
      : isIn(name) && draft[name]!.trim() !== before(name);
  const set = (edit: Readonly<Record<string, string | null>>) => {
    setSent(draft);
    const address = altered(parameters, { ...parametersOf(draft, value), ...edit, cursor: null });
    router.replace(`${path}${address}`, { scroll: false });
  };
  return {
    ...{ value, pending, set },
    put: (edit) => setDraft((typed) => ({ ...typed, ...edit })),
    apply: () => set({}),
  };
}

/** What is typed as parameters of the address. Half-typed days are left out. */
function parametersOf(draft: Values, value: (name: string) => string): Record<string, string | null> {
  const { min, max, wasFrom, wasTo, from, to, against, ...plain } = draft;
  const edit: Record<string, string | null> = {};
  for (const [name, text] of Object.entries(plain)) if (name !== 'column') edit[name] = text.trim();
  if (from !== undefined || to !== undefined) {
    if (value('from') !== '' && value('to') !== '')
      Object.assign(edit, { from: value('from'), to: value('to') });
  }
  const others = `${value('wasFrom')}..${value('wasTo')}`;
  const wantsOthers = against !== undefined || wasFrom !== undefined || wasTo !== undefined;
  if (wantsOthers && isSpan(others)) edit['against'] = others;
  const names = boundNames(value('column') as Column);
  if (min?.trim()) edit[names.min] = boundOf(min, value('column') as Column);
  if (max?.trim()) edit[names.max] = boundOf(max, value('column') as Column);
  return edit;
}

/** A bound as it stands in an address; null where it is no number. */
function boundOf(text: string, column: Column): string | null {
  const number = Number(text.trim().replace(',', '.'));
  return Number.isNaN(number) ? null : String(isPercent(column) ? number / 100 : number);
}
