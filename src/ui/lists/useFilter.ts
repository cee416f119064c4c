'use client';

import { usePathname, useRouter } from 'next/navigation';
import { useRef } from 'react';
import { z } from 'zod';
import { altered, boundNames, type Parameters } from '@/core/lists/address';
import { COLUMNS, type Column } from '@/core/lists/columns';
import { typedDay } from '../kit/dates/typedDay';
import type { EntityForm } from '../kit/useEntityForm';
import { useViewForm } from '../kit/view/useViewForm';

type Days = { readonly from: string; readonly to: string };
type Edit = Readonly<Record<string, string | null>>;

/** What is typed into the filter bar; `column`, `min` and `max` are the range that is being typed. */
export type FilterValues = {
  q: string;
  without: string;
  from: string;
  to: string;
  /** `other` while the days to compare with are being typed. */
  against: string;
  wasFrom: string;
  wasTo: string;
  column: Column;
  min: string;
  max: string;
};
export type FilterName = keyof FilterValues;

/** What the choice of days to compare with says for any others. */
export const OTHER = 'other';

export type Filter = {
  readonly form: EntityForm<FilterValues>;
  /** Applies a choice at once, and with it all that was typed. Null takes a parameter away. */
  readonly set: (edit: Edit) => void;
  /** Whether a field, or any of them, holds what is not applied yet. */
  readonly pending: (name?: FilterName) => boolean;
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

const DAYS = z.object({ from: typedDay, to: typedDay, wasFrom: typedDay, wasTo: typedDay });

/** The filter bar's form. Whatever is applied takes all that was typed with it. */
export function useFilter(parameters: Parameters, days: Days, was: Days | null): Filter {
  const router = useRouter();
  const path = usePathname();
  const shown: FilterValues = {
    q: applied(parameters, 'q'),
    without: applied(parameters, 'without'),
    from: days.from,
    to: days.to,
    against: applied(parameters, 'against'),
    wasFrom: was?.from ?? '',
    wasTo: was?.to ?? '',
    column: 'clicks',
    min: '',
    max: '',
  };
  const choice = useRef<Edit>({});
  const form = useViewForm({
    shown,
    view: JSON.stringify(parameters),
    schema: DAYS,
    go: (values) => {
      const edit = { ...editOf(values, shown), ...choice.current, cursor: null };
      choice.current = {};
      router.replace(`${path}${altered(parameters, edit)}`, { scroll: false });
    },
  });
  const typed = form.watch();
  const pending = (name?: FilterName): boolean =>
    name === undefined
      ? (Object.keys(shown) as FilterName[]).some((one) => one !== 'column' && pending(one))
      : typed[name].trim() !== shown[name];
  return {
    ...{ form, pending },
    set: (edit) => {
      choice.current = edit;
      void form.submit();
    },
  };
}

/** What was typed as parameters of the address. Half-typed days are left out. */
function editOf(typed: FilterValues, shown: FilterValues): Edit {
  const { q, without, from, to, wasFrom, wasTo, column, min, max } = typed;
  const edit: Record<string, string | null> = { q: q.trim(), without: without.trim() };
  const changed = (...names: FilterName[]) => names.some((name) => typed[name] !== shown[name]);
  if (changed('from', 'to') && from !== '' && to !== '') Object.assign(edit, { from, to });
  const others = `${wasFrom}..${wasTo}`;
  if (changed('against', 'wasFrom', 'wasTo') && isSpan(others)) edit['against'] = others;
  const names = boundNames(column);
  if (min.trim()) edit[names.min] = boundOf(min, column);
  if (max.trim()) edit[names.max] = boundOf(max, column);
  return edit;
}

/** A bound as it stands in an address; null where it is no number. */
function boundOf(text: string, column: Column): string | null {
  const number = Number(text.trim().replace(',', '.'));
  return Number.isNaN(number) ? null : String(isPercent(column) ? number / 100 : number);
}
