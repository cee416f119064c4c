'use client';

import { usePathname, useRouter, useSearchParams } from 'next/navigation';
import { z } from 'zod';
import { FormDay } from '../kit/dates/FormDay';
import { typedDay } from '../kit/dates/typedDay';
import { EntityForm } from '../kit/EntityForm';
import { useViewForm } from '../kit/view/useViewForm';

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
  const go = (day: string) => {
    const wanted = new URLSearchParams(search);
    if (day === '') wanted.delete('asOf');
    else wanted.set('asOf', day);
    router.push(`${path}?${wanted.toString()}`, { scroll: false });
  };
  const shown = { day: asOf === '' ? newest : asOf };
  const form = useViewForm({ shown, schema: z.object({ day: typedDay }), go: ({ day }) => go(day) });
  const error = form.errorOf('day');
  return (
    <EntityForm
      form={form}
      body="flex items-baseline gap-1.5"
      buttons={
        <>
          {form.watch('day') !== shown.day && (
            <button type="submit" className="font-semibold text-base-content underline underline-offset-3">
              Read again
            </button>
          )}
          {asOf !== '' && (
            <button type="button" className="inline-link" onClick={() => go('')}>
              As known now
            </button>
          )}
        </>
      }
    >
      <label className="flex items-baseline gap-1">
        as known on
        <FormDay control={form.control} name="day" className="h-6 w-36 border-0 border-b px-0" max={newest} />
      </label>
      {error !== undefined && (
        <span role="alert" className="font-medium text-error">
          {error}
        </span>
      )}
    </EntityForm>
  );
}
