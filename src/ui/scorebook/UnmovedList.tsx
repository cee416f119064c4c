'use client';

import { AppLink } from '../kit/AppLink';
import { useState } from 'react';
import { unpacked, type Packed } from '@/core/lists/packed';
import { plural } from '@/core/words/format';
import { FormLink } from '../shell/May';

/** A change that did not plainly move anything, where it is read, and where it is tried again. */
export type UnmovedLine = {
  readonly title: string;
  readonly href: string;
  readonly raw: string;
  readonly again: string;
};

type Props = { count: number; lines: Packed<UnmovedLine> };

/** The changes that did not move, drawn once somebody opens the list: of a large site there are hundreds. */
export function UnmovedList({ count, lines }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <details className="mt-2 text-[0.9rem]" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary>
        {plural(count, 'change')} that did not plainly move {count === 1 ? '' : 'anything'}
      </summary>
      {open && (
        <ul className="mt-1 max-h-72 overflow-y-auto" tabIndex={0} aria-label="Changes that did not move">
          {unpacked(lines).map(({ title, href, raw, again }) => (
            <li key={again} className="hairline flex items-baseline gap-3 border-b py-0.5">
              <AppLink href={href} className="min-w-0 flex-1 truncate hover:underline">
                {title}
              </AppLink>
              <span className="muted">{raw}</span>
              <FormLink right="log" href={again} className="inline-link">
                Try again<span className="sr-only"> {title}</span>
              </FormLink>
            </li>
          ))}
        </ul>
      )}
    </details>
  );
}
