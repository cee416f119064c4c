'use client';

import { usePathname, useRouter, useSearchParams } from 'next/navigation';
import { useState } from 'react';
import { DayField } from '../kit/dates/DayField';

type Props = {
  /** The day up to which figures are known in the reading shown; empty for now. */
  asOf: string;
  /** The newest day with final figures. */
  newest: string;
};

/** Reads the same change as it stood with the figures up to a day. The choice lives in the address. */
export function AsOfForm({ asOf, newest }: Props) {
  const router = useRouter();
  const path = usePathname();
  const search = useSearchParams();
  const [day, setDay] = useState(asOf);
  const go = (value: string) => {
    const wanted = new URLSearchParams(search);
    if (value === '') wanted.delete('asOf');
    else wanted.set('asOf', value);
    router.push(`${path}?${wanted.toString()}`, { scroll: false });
  };
  return (
    <form
      className="flex items-baseline gap-1.5"
      onSubmit={(e) => {
        e.preventDefault();
        go(day);
      }}
    >
      <label className="flex items-baseline gap-1">
        as known on
        <DayField
          className="h-6 w-32 border-0 border-b px-0"
          value={day === '' ? newest : day}
          max={newest}
          onChange={setDay}
        />
      </label>
      {day !== asOf && day !== '' && (
        <button type="submit" className="font-semibold text-base-content underline underline-offset-3">
          Read again
        </button>
      )}
      {asOf !== '' && (
        <button type="button" className="inline-link" onClick={() => go('')}>
          As known now
        </button>
      )}
    </form>
  );
}
