'use client';

import { Popover, PopoverPanel } from '@headlessui/react';
import dynamic from 'next/dynamic';
import { isoDay, parseIsoDay, type Day } from '@/core/calendar/day';
import { NAMED_RANGES } from '@/core/calendar/dateText';
import type { Span } from '@/core/calendar/span';
import { useSiteDays } from './SiteDays';
import { CALENDAR_PANEL, CalendarButton, DayText } from './DayField';

const RangeCalendar = dynamic(() => import('./Calendar').then((module) => module.RangeCalendar), {
  ssr: false,
});

/** Two days as ISO dates, or whatever was typed. */
export type DayRange = { readonly from: string; readonly to: string };

type Props = {
  readonly value: DayRange;
  readonly onChange: (range: DayRange) => void;
  /** Of the first day's control, for a label. */
  readonly id?: string;
  readonly className?: string;
  readonly labels?: readonly [from: string, to: string];
  /** Which of the two days is wrong. */
  readonly invalid?: { readonly from: boolean; readonly to: boolean };
  readonly disabled?: boolean;
};

function spanOf({ from, to }: DayRange): Span | null {
  const [firstDay, lastDay] = [parseIsoDay(from), parseIsoDay(to)];
  return firstDay === null || lastDay === null ? null : { firstDay, lastDay };
}

/** Takes a first and a last day: typed, chosen from a calendar, or by the name of a usual range. */
export function DayRangeField({
  value,
  onChange,
  id,
  className = '',
  labels,
  invalid,
  disabled = false,
}: Props) {
  const [from, to] = labels ?? ['First day', 'Last day'];
  const { today, newest } = useSiteDays();
  const chosen = spanOf(value);
  const take = (firstDay: Day, lastDay: Day | null) =>
    onChange({ from: isoDay(firstDay), to: lastDay === null ? value.to : isoDay(lastDay) });
  return (
    <Popover className={`input w-64 gap-1 px-2 ${className}`}>
      <DayText
        {...(id !== undefined && { id })}
        aria-label={from}
        aria-invalid={invalid?.from ?? false}
        disabled={disabled}
        value={value.from}
        onChange={(text) => onChange({ ...value, from: text })}
      />
      <span className="muted" aria-hidden>
        –
      </span>
      <DayText
        aria-label={to}
        aria-invalid={invalid?.to ?? false}
        disabled={disabled}
        value={value.to}
        onChange={(text) => onChange({ ...value, to: text })}
      />
      <CalendarButton text="Open calendar and ranges" disabled={disabled} />
      <PopoverPanel anchor="bottom start" focus className={`${CALENDAR_PANEL} flex max-sm:flex-col`}>
        {({ close }) => (
          <>
            <ul className="hairline min-w-36 border-r p-1 text-[0.85rem] max-sm:border-r-0 max-sm:border-b">
              {NAMED_RANGES.map(({ label, of }) => {
                const span = of(newest, chosen);
                return (
                  span && (
                    <li key={label}>
                      <button
                        type="button"
                        className="w-full px-2 py-1 text-left hover:bg-base-200"
                        onClick={() => {
                          take(span.firstDay, span.lastDay);
                          close();
                        }}
                      >
                        {label}
                      </button>
                    </li>
                  )
                );
              })}
            </ul>
            <RangeCalendar value={chosen} today={today} onChoose={take} />
          </>
        )}
      </PopoverPanel>
    </Popover>
  );
}
