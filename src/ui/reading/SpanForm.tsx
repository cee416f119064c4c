'use client';

import { usePathname, useRouter, useSearchParams } from 'next/navigation';
import { useState } from 'react';

type Props = { windowDays: number; settlingDays: number };

/** Reads the same change over other spans. The choice lives in the address and changes nothing that is stored. */
export function SpanForm({ windowDays, settlingDays }: Props) {
  const router = useRouter();
  const path = usePathname();
  const search = useSearchParams();
  const [days, setDays] = useState(String(windowDays));
  const [settling, setSettling] = useState(String(settlingDays));
  const changed = days !== String(windowDays) || settling !== String(settlingDays);
  const apply = () => {
    const wanted = new URLSearchParams(search);
    wanted.set('windowDays', days);
    wanted.set('settlingDays', settling);
    router.push(`${path}?${wanted.toString()}`, { scroll: false });
  };
  return (
    <form
      className="flex items-baseline gap-1.5"
      onSubmit={(e) => {
        e.preventDefault();
        apply();
      }}
    >
      <label className="flex items-baseline gap-1">
        spans of
        <Days value={days} set={setDays} min={1} max={364} />
        days,
      </label>
      <label className="flex items-baseline gap-1">
        <Days value={settling} set={setSettling} min={0} max={90} />
        settling days left out
      </label>
      {changed && (
        <button type="submit" className="font-semibold text-base-content underline underline-offset-3">
          Read again
        </button>
      )}
    </form>
  );
}

function Days({
  value,
  set,
  min,
  max,
}: {
  value: string;
  set: (value: string) => void;
  min: number;
  max: number;
}) {
  return (
    <input
      type="number"
      required
      min={min}
      max={max}
      step={1}
      value={value}
      onChange={(e) => set(e.target.value)}
      className="w-12 border-b border-(--muted) bg-transparent text-center font-bold text-base-content"
    />
  );
}
