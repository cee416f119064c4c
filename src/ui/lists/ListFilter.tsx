'use client';

import { useEffect, useRef } from 'react';
import { boundNames, rangeText, type Parameters } from '@/core/lists/address';
import { COLUMNS, columnsOf, type Column, type ListSubject } from '@/core/lists/columns';
import { INTENT_NAMES, INTENTS } from '@/core/model/intents';
import { COMPARE_WITH } from '@/core/lists/wish';
import { NARROW_DEVICES } from '@/core/reading/narrowing';
import { DayRangeField, type DayRange } from '../kit/dates/DayRangeField';
import { applied, isPercent, isSpan, useFilterDraft, type FilterDraft } from './useFilterDraft';

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
/** What the choice of days to compare with says for any others. */
const OTHER = 'other';

/**
 * What a list is narrowed to: words, days, device and ranges of columns, all of which live in the address. Whatever
 * is applied, all that is typed is applied with it; what is not applied yet is marked.
 */
export function ListFilter({ subject, parameters, days, was, groups }: Props) {
  const { value, put, set, apply, pending } = useFilterDraft(parameters, days, was);
  const ranges = columnsOf(subject).flatMap((column) => {
    const names = boundNames(column);
    const [min, max] = [applied(parameters, names.min), applied(parameters, names.max)];
    const bound = (text: string) => (text === '' || Number.isNaN(Number(text)) ? null : Number(text));
    return min === '' && max === '' ? [] : [{ column, names, min: bound(min), max: bound(max) }];
  });
  const against = value('against');
  return (
    <form
      className="mb-2 space-y-1.5 text-[0.85rem]"
      onSubmit={(e) => {
        e.preventDefault();
        apply();
      }}
    >
      <div className="flex flex-wrap items-end gap-x-3 gap-y-1.5">
        <Words
          label={`Search ${WHAT[subject]}`}
          placeholder={subject === 'pages' ? 'Part of a URL' : 'Words in the query'}
          value={value('q')}
          put={(q) => put({ q })}
          apply={apply}
          search
        />
        <Words
          label="Without the words"
          placeholder="without"
          value={value('without')}
          put={(without) => put({ without })}
          apply={apply}
        />
        <DayRangeField
          className={`input-sm ${pending('from') || pending('to') ? PENDING : ''}`}
          value={{ from: value('from'), to: value('to') }}
          onChange={put}
        />
        <Select
          label="Compare with"
          value={isSpan(against) ? OTHER : against || 'before'}
          options={AGAINST}
          put={(to) => (to === OTHER ? put({ against: OTHER }) : set({ against: to }))}
        />
        {(against === OTHER || isSpan(against)) && (
          <DayRangeField
            labels={['Compare from', 'Compare to']}
            className={`input-sm ${pending('wasFrom') || pending('wasTo') ? PENDING : ''}`}
            value={{ from: value('wasFrom'), to: value('wasTo') }}
            onChange={({ from, to }) => put({ wasFrom: from, wasTo: to })}
          />
        )}
        <Select
          label="Device"
          value={value('device')}
          options={[['', 'all devices'], ...NARROW_DEVICES.map((name) => [name, name] as const)]}
          put={(device) => set({ device })}
        />
        {subject !== 'pages' && (
          <>
            <Select
              label="Brand queries"
              value={value('brand')}
              options={[
                ['', 'with brand'],
                ['without', 'without brand'],
                ['only', 'brand only'],
              ]}
              put={(brand) => set({ brand })}
            />
            <Select
              label="Intent"
              value={value('intent')}
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
            value={value('group')}
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
        <RangeFields subject={subject} value={value} put={put} pending={pending} />
        <button type="submit" className="inline-link">
          Apply
        </button>
        {pending() && (
          <span role="status" className="border-b border-dashed border-base-content">
            Changes not applied yet
          </span>
        )}
      </div>
    </form>
  );
}

const AGAINST = [...COMPARE_WITH, [OTHER, 'against other days']] as const;

type WordsProps = {
  label: string;
  placeholder: string;
  value: string;
  put: (text: string) => void;
  apply: () => void;
  search?: boolean;
};

/** Words apply themselves once typing pauses. */
function Words({ label, placeholder, value, put, apply, search }: WordsProps) {
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const latest = useRef(apply);
  useEffect(() => {
    latest.current = apply;
  });
  useEffect(() => () => clearTimeout(timer.current), []);
  return (
    <input
      {...(search ? { 'data-search': true, type: 'search' } : { type: 'text' })}
      aria-label={label}
      placeholder={placeholder}
      className={`input input-sm ${search ? 'w-48' : 'w-28'}`}
      value={value}
      onChange={(e) => {
        put(e.target.value);
        clearTimeout(timer.current);
        timer.current = setTimeout(() => latest.current(), TYPING_MS);
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

type RangeProps = {
  subject: ListSubject;
  value: FilterDraft['value'];
  put: FilterDraft['put'];
  pending: FilterDraft['pending'];
};

/** A range of any column. Shares are typed in percent, as they are shown. */
function RangeFields({ subject, value, put, pending }: RangeProps) {
  const column = value('column') as Column;
  const inPercent = isPercent(column);
  return (
    <span className="flex flex-wrap items-baseline gap-1.5">
      <select
        aria-label="Column"
        className="select select-sm w-auto"
        value={column}
        onChange={(e) => put({ column: e.target.value })}
      >
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
          value={value(end)}
          onChange={(e) => put({ [end]: e.target.value })}
        />
      ))}
    </span>
  );
}
