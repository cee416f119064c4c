import { useState } from 'react';
import { type Choice, type ChoiceFound } from '@/core/intake/counted';
import { count } from '@/core/words/format';

const QUESTIONS: Record<Choice, string> = {
  channel: 'Rows of several channels are in this file. Which count? The others are left out.',
  searchType: 'Rows of several kinds of search are in this file. Which count? The others are left out.',
};

type Props = {
  found: ChoiceFound;
  /** The name of the column. */
  column: string;
  busy: boolean;
  /** Told of all values that count. */
  onChange: (values: readonly string[]) => void;
};

/** Which values of a column count, with how many rows each has. */
export function ChoiceField({ found: { choice, values, more }, column, busy, onChange }: Props) {
  // Shown at once, before the file has been looked through again.
  const [counting, setCounting] = useState(() =>
    values.filter(({ counts }) => counts).map(({ value }) => value),
  );
  const set = (value: string, counts: boolean) => {
    const next = counts ? [...counting, value] : counting.filter((other) => other !== value);
    setCounting(next);
    onChange(next);
  };
  return (
    <fieldset className="mt-4 border-l-3 border-(--band) pl-3">
      <legend className="sr-only">Values of “{column}” that count</legend>
      <p className="font-semibold">{QUESTIONS[choice]}</p>
      <div className="mt-1 flex max-h-40 flex-wrap gap-x-6 gap-y-1 overflow-y-auto">
        {values.map(({ value, rows }) => (
          <label key={value} className="inline-flex items-center gap-2">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={counting.includes(value)}
              disabled={busy}
              onChange={(e) => set(value, e.target.checked)}
            />
            {value || 'nothing stated'} <span className="muted">{count(rows)}</span>
          </label>
        ))}
      </div>
      {more && <p className="muted text-[0.85rem]">There are more values; those not listed do not count.</p>}
    </fieldset>
  );
}
