'use client';

import { usePathname, useRouter, useSearchParams } from 'next/navigation';
import { z } from 'zod';
import { EntityForm } from '../kit/EntityForm';
import { useViewForm } from '../kit/view/useViewForm';

type Props = { windowDays: number; settlingDays: number };

const DAYS = {
  windowDays: { min: 1, max: 364 },
  settlingDays: { min: 0, max: 90 },
};
const days = ({ min, max }: { min: number; max: number }) => {
  const message = `Give ${min} to ${max} days.`;
  return z.coerce.number(message).int(message).min(min, message).max(max, message);
};
const schema = z.object({ windowDays: days(DAYS.windowDays), settlingDays: days(DAYS.settlingDays) });

/** Reads the same change over other spans. The choice lives in the address and changes nothing that is stored. */
export function SpanForm({ windowDays, settlingDays }: Props) {
  const router = useRouter();
  const path = usePathname();
  const search = useSearchParams();
  const shown = { windowDays: String(windowDays), settlingDays: String(settlingDays) };
  const form = useViewForm({
    shown,
    schema,
    go: (values) => {
      const wanted = new URLSearchParams(search);
      for (const [name, value] of Object.entries(values)) wanted.set(name, value);
      router.push(`${path}?${wanted.toString()}`, { scroll: false });
    },
  });
  const typed = form.watch();
  const error = form.errorOf('windowDays') ?? form.errorOf('settlingDays');
  const input = (name: keyof typeof shown) => (
    <input
      {...form.register(name)}
      {...DAYS[name]}
      type="number"
      aria-invalid={form.errorOf(name) !== undefined}
      className="w-12 border-b border-(--muted) bg-transparent text-center font-bold text-base-content"
    />
  );
  return (
    <EntityForm
      form={form}
      body="flex items-baseline gap-1.5"
      buttons={
        (typed.windowDays !== shown.windowDays || typed.settlingDays !== shown.settlingDays) && (
          <button type="submit" className="font-semibold text-base-content underline underline-offset-3">
            Read again
          </button>
        )
      }
    >
      <label className="flex items-baseline gap-1">spans of {input('windowDays')} days,</label>
      <label className="flex items-baseline gap-1">{input('settlingDays')} settling days left out</label>
      {error !== undefined && (
        <span role="alert" className="font-medium text-error">
          {error}
        </span>
      )}
    </EntityForm>
  );
}
