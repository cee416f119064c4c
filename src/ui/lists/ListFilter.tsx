'use client';

import { usePathname, useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { altered, boundNames, rangeText, type Parameters } from '@/core/lists/address';
import { COLUMNS, columnsOf, type Column, type ListSubject } from '@/core/lists/columns';
import { INTENT_NAMES, INTENTS } from '@/core/lists/intent';
import { NARROW_DEVICES } from '@/core/reading/input';

type Props = {
  subject: ListSubject;
  parameters: Parameters;
  /** The days shown, as the fields show them. */
  days: { readonly from: string; readonly to: string };
  groups: readonly string[];
};

const WHAT: Readonly<Record<ListSubject, string>> = { pages: 'pages', queries: 'queries', pairs: 'queries' };
const TYPING_MS = 250;

/** What a list is narrowed to: words, days, device and ranges of columns, all of which live in the address. */
export function ListFilter({ subject, parameters, days, groups }: Props) {
  const router = useRouter();
  const path = usePathname();
  const current = (name: string) =>
    typeof parameters[name] === 'string' ? (parameters[name] as string) : '';
  const set = (edit: Readonly<Record<string, string | null>>) =>
    router.replace(`${path}${altered(parameters, { ...edit, cursor: null })}`, { scroll: false });
  const ranges = columnsOf(subject).flatMap((column) => {
    const names = boundNames(column);
    const [min, max] = [current(names.min), current(names.max)];
    const bound = (text: string) => (text === '' || Number.isNaN(Number(text)) ? null : Number(text));
    return min === '' && max === '' ? [] : [{ column, names, min: bound(min), max: bound(max) }];
  });
  return (
    <div className="mb-2 space-y-1.5 text-[0.85rem]">
      <div className="flex flex-wrap items-end gap-x-3 gap-y-1.5">
        <Words
          label={`Search ${WHAT[subject]}`}
          name="q"
          placeholder={subject === 'pages' ? 'Part of an address' : 'Words in the query'}
          value={current('q')}
          set={set}
          search
        />
        <Words
          label="Without the words"
          name="without"
          placeholder="without"
          value={current('without')}
          set={set}
        />
        <DayField
          label="First day"
          value={days.from}
          put={(from) => set({ from, to: current('to') || days.to })}
        />
        <DayField
          label="Last day"
          value={days.to}
          put={(to) => set({ to, from: current('from') || days.from })}
        />
        <Select
          label="Held against"
          value={AGAINST.some(([value]) => value === current('against')) ? current('against') : ''}
          options={AGAINST}
          put={(against) => set({ against })}
        />
        <Select
          label="Device"
          value={current('device')}
          options={[['', 'all devices'], ...NARROW_DEVICES.map((name) => [name, name] as const)]}
          put={(device) => set({ device })}
        />
        {subject !== 'pages' && (
          <>
            <Select
              label="Searches for the site itself"
              value={current('brand')}
              options={[
                ['', 'brand too'],
                ['without', 'without brand'],
                ['only', 'brand only'],
              ]}
              put={(brand) => set({ brand })}
            />
            <Select
              label="Intent"
              value={current('intent')}
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
            value={current('group')}
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
              aria-label={`Any ${COLUMNS[column].name} again`}
              onClick={() => set({ [names.min]: null, [names.max]: null })}
            >
              any
            </button>
          </span>
        ))}
        <RangeForm subject={subject} set={set} />
      </div>
    </div>
  );
}

const AGAINST = [
  ['', 'against the days before'],
  ['year', 'against a year earlier'],
  ['none', 'alone'],
] as const;

type Set = (edit: Readonly<Record<string, string | null>>) => void;

type WordsProps = {
  label: string;
  name: string;
  placeholder: string;
  value: string;
  set: Set;
  search?: boolean;
};

function Words({ label, name, placeholder, value, set, search }: WordsProps) {
  const [typed, setTyped] = useState(value);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const [shown, setShown] = useState(value);
  if (value !== shown) {
    // The address was changed from elsewhere, such as by Back.
    setShown(value);
    if (value !== typed.trim()) setTyped(value);
  }
  useEffect(() => () => clearTimeout(timer.current), []);
  return (
    <input
      {...(search ? { 'data-search': true, type: 'search' } : { type: 'text' })}
      aria-label={label}
      placeholder={placeholder}
      className={`input input-sm ${search ? 'w-48' : 'w-28'}`}
      value={typed}
      onChange={(e) => {
        setTyped(e.target.value);
        clearTimeout(timer.current);
        timer.current = setTimeout(() => set({ [name]: e.target.value.trim() }), TYPING_MS);
      }}
    />
  );
}

function DayField({ label, value, put }: { label: string; value: string; put: (day: string) => void }) {
  return (
    <input
      key={value}
      type="date"
      aria-label={label}
      className="input input-sm w-34"
      defaultValue={value}
      onBlur={(e) => e.target.value !== value && e.target.value !== '' && put(e.target.value)}
      onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
    />
  );
}

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
function RangeForm({ subject, set }: { subject: ListSubject; set: Set }) {
  const [column, setColumn] = useState<Column>('clicks');
  const [min, setMin] = useState('');
  const [max, setMax] = useState('');
  const inPercent = ['ctr', 'share', 'points'].includes(COLUMNS[column].form);
  const written = (text: string) => {
    const value = Number(text.replace(',', '.'));
    return text.trim() === '' || Number.isNaN(value) ? null : String(inPercent ? value / 100 : value);
  };
  return (
    <form
      className="flex flex-wrap items-baseline gap-1.5"
      onSubmit={(e) => {
        e.preventDefault();
        const names = boundNames(column);
        set({ [names.min]: written(min), [names.max]: written(max) });
        setMin('');
        setMax('');
      }}
    >
      <select
        aria-label="Column"
        className="select select-sm w-auto"
        value={column}
        onChange={(e) => setColumn(e.target.value as Column)}
      >
        {columnsOf(subject).map((key) => (
          <option key={key} value={key}>
            {COLUMNS[key].name}
          </option>
        ))}
      </select>
      <input
        aria-label="At least"
        placeholder={inPercent ? 'from %' : 'from'}
        inputMode="decimal"
        className="input input-sm w-20"
        value={min}
        onChange={(e) => setMin(e.target.value)}
      />
      <input
        aria-label="At most"
        placeholder={inPercent ? 'to %' : 'to'}
        inputMode="decimal"
        className="input input-sm w-20"
        value={max}
        onChange={(e) => setMax(e.target.value)}
      />
      <button type="submit" className="inline-link">
        Narrow
      </button>
    </form>
  );
}
