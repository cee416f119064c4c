'use client';

import type { Kept } from './useDraft';

/** Says that what is shown was typed before and not saved, and offers what other tabs have left. */
export function DraftNote<T>({ kept, nameOf }: { kept: Kept<T>; nameOf: (values: T) => string }) {
  const { left, foundFrom, take, drop, beginAnew } = kept;
  if (left.length === 0 && foundFrom === null) return null;
  return (
    <div role="status" className="border-l-3 border-(--band) pl-3 text-[0.9rem]">
      {foundFrom !== null && (
        <p>
          This was typed on {when(foundFrom)} and not saved.{' '}
          <button type="button" className="inline-link" onClick={beginAnew}>
            Begin from what is saved
          </button>
        </p>
      )}
      {left.map((draft) => (
        <p key={draft.tab}>
          Typed elsewhere on {when(draft.at)} and not saved: “{nameOf(draft.values) || 'nothing by name'}”.{' '}
          <button type="button" className="inline-link" onClick={() => take(draft)}>
            Go on with it
          </button>{' '}
          <button type="button" className="inline-link" onClick={() => drop(draft.tab)}>
            Drop it
          </button>
        </p>
      ))}
    </div>
  );
}

/** An instant in the words of the browser's own place and clock. */
function when(at: string): string {
  return new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
}
