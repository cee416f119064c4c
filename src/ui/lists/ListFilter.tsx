'use client';

import { useEffect, useRef } from 'react';
import { boundNames, rangeText, type Parameters } from '@/core/lists/address';
import { COLUMNS, columnsOf, type ListSubject } from '@/core/lists/columns';
import { INTENT_NAMES, INTENTS } from '@/core/model/intents';
import { COMPARE_WITH } from '@/core/lists/wish';
import { NARROW_DEVICES } from '@/core/reading/narrowing';
import { DayRangeField, type DayRange } from '../kit/dates/DayRangeField';
import { EntityForm } from '../kit/EntityForm';
import { applied, isPercent, isSpan, OTHER, useFilter, type Filter } from './useFilter';

type Props = {
  subject: ListSubject;
  parameters: Parameters;
  /** The days shown and those they are compared with, as the fields show them. */
  days: DayRange;
  was: DayRange | null;
  groups: readonly string[];
};

const WHAT: Readonly<Record<ListSubject, string>> = { pages: 'pages', queries: 'queries', pairs: 'queries' };
const TYPING_MS = 250;

/**
 * What a list is narrowed to: words, days, device and ranges of columns, all of which live in the address. Whatever
 * is applied, all that is typed is applied with it; what is not applied yet is marked.
 */
export function ListFilter({ subject, parameters, days, was, groups }: Props) {
  const filter = useFilter(parameters, days, was);
  const { form, set, pending } = filter;
  const typed = form.watch();
  const ranges = columnsOf(subject).flatMap((column) => {
    const names = boundNames(column);
    const [min, max] = [applied(parameters, names.min), applied(parameters, names.max)];
    const bound = (text: string) => (text === '' || Number.isNaN(Number(text)) ? null : Number(text));
    return min === '' && max === '' ? [] : [{ column, names, min: bound(min), max: bound(max) }];
  });
  const { against } = typed;
  const error = (['from', 'to', 'wasFrom', 'wasTo'] as const).map(form.errorOf).find(Boolean);
  return (
    <EntityForm form={form} className="mb-2" body="space-y-1.5 text-[0.85rem]" buttons={null}>
      <div className="flex flex-wrap items-end gap-x-3 gap-y-1.5">
        <Words
          label={`Search ${WHAT[subject]}`}
          placeholder={subject === 'pages' ? 'Part of a URL' : 'Words in the query'}
          name="q"
          form={form}
          search
        />
        <Words label="Without the words" placeholder="without" name="without" form={form} />
        <DayRangeField
          className={`input-sm ${pending('from') || pending('to') ? PENDING : ''}`}
          value={typed}
          onChange={({ from, to }) => {
            form.setValue('from', from);
            form.setValue('to', to);
          }}
        />
        <Select
          label="Compare with"
          value={isSpan(against) ? OTHER : against || 'before'}
          options={AGAINST}
          put={(to) => (to === OTHER ? form.setValue('against', OTHER) : set({ against: to }))}
        />
        {(against === OTHER || isSpan(against)) && (
          <DayRangeField
            labels={['Compare from', 'Compare to']}
            className={`input-sm ${pending('wasFrom') || pending('wasTo') ? PENDING : ''}`}
            value={{ from: typed.wasFrom, to: typed.wasTo }}
            onChange={({ from, to }) => {
              form.setValue('wasFrom', from);
              form.setValue('wasTo', to);
            }}
          />
        )}
        <Select
          label="Device"
          value={applied(parameters, 'device')}
          options={[['', 'all devices'], ...NARROW_DEVICES.map((name) => [name, name] as const)]}
          put={(device) => set({ device })}
        />
        {subject !== 'pages' && (
          <>
            <Select
              label="Brand queries"
              value={applied(parameters, 'brand')}
              options={[
                ['', 'with brand'],
                ['without', 'without brand'],
                ['only', 'brand only'],
              ]}
              put={(brand) => set({ brand })}
            />
            <Select
              label="Intent"
              value={applied(parameters, 'intent')}
              options={[
                ['', 'any intent'],
                ...INTENTS.map((intent) => [intent, INTENT_NAMES[intent]] as const),
              ]}
              put={(intent) => set({ intent })}
            />
          </>
        )}
        {subject !== 'queries' && groups.length > 1 && (
          <Select
            label="Group"
            value={applied(parameters, 'group')}
            options={[['', 'all groups'], ...groups.map((group) => [group, group] as const)]}
            put={(group) => set({ group })}
          />
        )}
      </div>
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        {ranges.map(({ column, names, min, max }) => (
          <span key={column} className="border-b border-base-content">
            {rangeText(column, { min, max })}{' '}
            <button
              type="button"
              className="inline-link"
              aria-label={`Remove the filter on ${COLUMNS[column].name}`}
              onClick={() => set({ [names.min]: null, [names.max]: null })}
            >
              remove
            </button>
          </span>
        ))}
        <RangeFields subject={subject} filter={filter} />
        <button type="submit" className="inline-link">
          Apply
        </button>
        {error !== undefined && (
          <span role="alert" className="font-medium text-error">
            {error}
          </span>
        )}
        {pending() && (
          <span role="status" className="border-b border-dashed border-base-content">
            Changes not applied yet
          </span>
        )}
      </div>
    </EntityForm>
  );
}

const AGAINST = [...COMPARE_WITH, [OTHER, 'against other days']] as const;

type WordsProps = {
  label: string;
  placeholder: string;
  name: 'q' | 'without';
  form: Filter['form'];
  search?: boolean;
};

/** Words apply themselves once typing pauses. */
function Words({ label, placeholder, name, form, search }: WordsProps) {
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const latest = useRef(form.submit);
  useEffect(() => {
    latest.current = form.submit;
  });
  useEffect(() => () => clearTimeout(timer.current), []);
  const field = form.register(name);
  return (
    <input
      {...(search ? { 'data-search': true, type: 'search' } : { type: 'text' })}
      aria-label={label}
      placeholder={placeholder}
      className={`input input-sm ${search ? 'w-48' : 'w-28'}`}
      {...field}
      onChange={(event) => {
        void field.onChange(event);
        clearTimeout(timer.current);
        timer.current = setTimeout(() => void latest.current(), TYPING_MS);
      }}
    />
  );
}

/** How a field shows that what it holds is not applied yet. */
const PENDING = 'border-dashed border-base-content';

type SelectProps = {
  label: string;
  value: string;
  options: readonly (readonly [value: string, text: string])[];
  put: (value: string) => void;
};

function Select({ label, value, options, put }: SelectProps) {
  return (
    <select
      aria-label={label}
      className="select select-sm w-auto"
      value={value}
      onChange={(e) => put(e.target.value)}
    >
      {options.map(([key, text]) => (
        <option key={key} value={key}>
          {text}
        </option>
      ))}
    </select>
  );
}

/** A range of any column. Shares are typed in percent, as they are shown. */
function RangeFields({ subject, filter: { form, pending } }: { subject: ListSubject; filter: Filter }) {
  const inPercent = isPercent(form.watch('column'));
  return (
    <span className="flex flex-wrap items-baseline gap-1.5">
      <select aria-label="Column" className="select select-sm w-auto" {...form.register('column')}>
        {columnsOf(subject).map((key) => (
          <option key={key} value={key}>
            {COLUMNS[key].name}
          </option>
        ))}
      </select>
      {(['min', 'max'] as const).map((end) => (
        <input
          key={end}
          aria-label={end === 'min' ? 'At least' : 'At most'}
          placeholder={`${end === 'min' ? 'from' : 'to'}${inPercent ? ' %' : ''}`}
          inputMode="decimal"
          className={`input input-sm w-20 ${pending(end) ? PENDING : ''}`}
          {...form.register(end)}
        />
      ))}
    </span>
  );
}
