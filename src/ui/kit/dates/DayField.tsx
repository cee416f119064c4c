'use client';

import { CloseButton, Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import { Calendar as CalendarIcon } from 'lucide-react';
import dynamic from 'next/dynamic';
import { useState, type Ref } from 'react';
import { isoDay, parseIsoDay, type Day } from '@/core/calendar/day';
import { parseTypedDay } from '@/core/calendar/dateText';
import { mediumDay } from '@/core/words/format';
import { useSiteDays } from './SiteDays';
import { NO_DAY } from './typedDay';

// Without `ssr: false` there would be no boundary of its own, and the whole list around it would be hidden while it loads.
const Calendar = dynamic(() => import('./Calendar').then((module) => module.Calendar), { ssr: false });

/** What a text control of a day takes besides its value. */
export type DayTextProps = {
  /** `2026-11-24`, or whatever was typed that is no day; empty for none. */
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly onBlur?: () => void;
  readonly ref?: Ref<HTMLInputElement>;
  readonly id?: string;
  readonly disabled?: boolean;
  readonly required?: boolean;
  readonly autoFocus?: boolean;
  readonly 'aria-label'?: string;
  readonly 'aria-describedby'?: string;
  readonly 'aria-invalid'?: boolean;
};

/** How a stored day reads in a text control: `24 Nov 2026`; what is no day stays as typed. */
function shownDay(value: string): string {
  const day = parseIsoDay(value);
  return day === null ? value : mediumDay(day);
}

/** A day as text. It is typed in any usual form, and reads `24 Nov 2026` once left. */
export function DayText({ value, onChange, onBlur, ...input }: DayTextProps) {
  const { today } = useSiteDays();
  const [typed, setTyped] = useState<string | null>(null);
  const isDay = value === '' || parseIsoDay(value) !== null;
  return (
    <input
      {...input}
      // What is no day matches nothing, so a form isn't sent with it, and the browser says why.
      pattern={isDay ? undefined : '(?!)'}
      title={isDay ? undefined : NO_DAY}
      aria-invalid={input['aria-invalid'] === true || (!isDay && typed === null)}
      type="text"
      autoComplete="off"
      spellCheck={false}
      placeholder="Day"
      className="min-w-0 grow"
      value={typed ?? shownDay(value)}
      onChange={(event) => {
        const text = event.target.value;
        const day = parseTypedDay(text, today);
        setTyped(text);
        onChange(day === null ? text.trim() : isoDay(day));
      }}
      onBlur={() => {
        setTyped(null);
        onBlur?.();
      }}
    />
  );
}

/** The panel of a calendar, below the control that opens it. */
export const CALENDAR_PANEL =
  'hairline z-30 border bg-base-100 p-2 text-base-content shadow-sm [--anchor-gap:4px] [--anchor-padding:8px] focus:outline-none';

/** The button that opens a calendar. */
export function CalendarButton({ disabled = false, text }: { disabled?: boolean; text: string }) {
  return (
    <PopoverButton
      disabled={disabled}
      aria-label={text}
      className="muted flex size-6 shrink-0 items-center justify-center"
    >
      <CalendarIcon size={15} aria-hidden />
    </PopoverButton>
  );
}

type Props = DayTextProps & {
  readonly className?: string;
  /** The first and the last day that can be chosen, as ISO dates. */
  readonly min?: string;
  readonly max?: string;
};

/** Takes a day: typed, or chosen from a calendar. */
export function DayField({ className = 'w-full', min, max, ...text }: Props) {
  const { today } = useSiteDays();
  const day = parseIsoDay(text.value);
  const bound = (iso: string | undefined): Day | undefined => (iso && parseIsoDay(iso)) || undefined;
  return (
    <Popover className={`input gap-1 px-2 ${className}`}>
      <DayText {...text} />
      <CalendarButton text="Open calendar" {...(text.disabled && { disabled: true })} />
      <PopoverPanel anchor="bottom end" focus className={CALENDAR_PANEL}>
        {({ close }) => (
          <>
            <Calendar
              value={day}
              today={today}
              min={bound(min)}
              max={bound(max)}
              onChoose={(chosen) => {
                text.onChange(isoDay(chosen));
                close();
              }}
            />
            <CloseButton className="sr-only focus:not-sr-only">Close calendar</CloseButton>
          </>
        )}
      </PopoverPanel>
    </Popover>
  );
}
