'use client';

import { DayPicker, type DateRange, type Matcher } from 'react-day-picker';
import { enGB } from 'react-day-picker/locale';
import { type Day } from '@/core/calendar/day';
import { dayOfUtcDate, utcDate } from '@/core/calendar/dateText';
import type { Span } from '@/core/calendar/span';

type Bounds = { readonly min?: Day | undefined; readonly max?: Day | undefined };

const shared = {
  timeZone: 'UTC',
  locale: enGB,
  className: 'react-day-picker',
  captionLayout: 'dropdown' as const,
  autoFocus: true,
};

/** Months beyond which nobody has figures or plans. */
const months = ({ min, max }: Bounds, around: Day) => ({
  startMonth: utcDate(min ?? ((around - 10 * 366) as Day)),
  endMonth: utcDate(max ?? ((around + 3 * 366) as Day)),
});

const outside = ({ min, max }: Bounds): Matcher[] => [
  ...(min === undefined ? [] : [{ before: utcDate(min) }]),
  ...(max === undefined ? [] : [{ after: utcDate(max) }]),
];

type DayProps = Bounds & {
  readonly value: Day | null;
  readonly today: Day;
  readonly onChoose: (day: Day) => void;
};

/** A month to choose one day from. */
export function Calendar({ value, today, onChoose, ...bounds }: DayProps) {
  const at = value ?? today;
  return (
    <DayPicker
      {...shared}
      {...months(bounds, today)}
      mode="single"
      required
      today={utcDate(today)}
      defaultMonth={utcDate(at)}
      selected={value === null ? undefined : utcDate(value)}
      disabled={outside(bounds)}
      onSelect={(date) => onChoose(dayOfUtcDate(date))}
    />
  );
}

type RangeProps = Bounds & {
  readonly value: Span | null;
  readonly today: Day;
  /** Told of the first day alone, then of both. */
  readonly onChoose: (from: Day, to: Day | null) => void;
};

/** Two months to choose a first and a last day from. */
export function RangeCalendar({ value, today, onChoose, ...bounds }: RangeProps) {
  const selected: DateRange | undefined = value
    ? { from: utcDate(value.firstDay), to: utcDate(value.lastDay) }
    : undefined;
  return (
    <DayPicker
      {...shared}
      {...months(bounds, today)}
      mode="range"
      required
      resetOnSelect
      numberOfMonths={2}
      today={utcDate(today)}
      defaultMonth={utcDate(value?.firstDay ?? today)}
      selected={selected}
      disabled={outside(bounds)}
      onSelect={({ from, to }) => from && onChoose(dayOfUtcDate(from), to ? dayOfUtcDate(to) : null)}
    />
  );
}
