'use client';

import { useState } from 'react';
import { plural } from '@/core/words/format';

/** A change that a report can be about. */
export type ChangeOffered = { readonly id: number; readonly title: string; readonly day: string };

type Props = {
  changes: readonly ChangeOffered[];
  chosen: readonly number[];
  choose: (ids: number[]) => void;
  error: string | undefined;
};

/** The changes that a report is about, ticked in a list that can be searched. */
export function ChangeChoice({ changes, chosen, choose, error }: Props) {
  const [sought, setSought] = useState('');
  const words = sought.toLowerCase().split(/\s+/).filter(Boolean);
  const found = changes.filter(({ title, day }) =>
    words.every((word) => `${title.toLowerCase()} ${day}`.includes(word)),
  );
  const ticked = new Set(chosen);
  const toggle = (id: number) =>
    choose(ticked.has(id) ? chosen.filter((one) => one !== id) : [...chosen, id]);
  return (
    <fieldset>
      <legend className="text-[0.85rem] font-semibold">
        Which changes: {chosen.length === 0 ? 'none yet' : plural(chosen.length, 'change')}
      </legend>
      {error && <p className="text-[0.85rem] font-medium text-error">{error}</p>}
      <div className="mb-1 flex flex-wrap items-center gap-x-4 gap-y-1">
        <input
          type="search"
          aria-label="Search among the changes"
          placeholder="title or day"
          className="input input-sm w-64"
          value={sought}
          onChange={(event) => setSought(event.target.value)}
        />
        <button
          type="button"
          className="inline-link min-h-7 text-[0.9rem]"
          onClick={() => choose([...new Set([...chosen, ...found.map(({ id }) => id)])])}
        >
          Tick all {words.length > 0 ? 'found' : ''}
        </button>
        {chosen.length > 0 && (
          <button type="button" className="inline-link min-h-7 text-[0.9rem]" onClick={() => choose([])}>
            Tick none
          </button>
        )}
      </div>
      {found.length === 0 ? (
        <p className="muted">No change says that.</p>
      ) : (
        <ul className="hairline max-h-56 overflow-y-auto border px-2 py-1" tabIndex={0} aria-label="Changes">
          {found.map(({ id, title, day }) => (
            <li key={id}>
              <label className="flex min-h-7 items-baseline gap-2">
                <input
                  type="checkbox"
                  className="checkbox checkbox-xs translate-y-0.5"
                  checked={ticked.has(id)}
                  onChange={() => toggle(id)}
                />
                <span className="min-w-0 flex-1">{title}</span>
                <span className="muted text-[0.85rem] tabular-nums">{day}</span>
              </label>
            </li>
          ))}
        </ul>
      )}
    </fieldset>
  );
}
