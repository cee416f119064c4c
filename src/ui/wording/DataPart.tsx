'use client';

import { useState } from 'react';
import type { SuggestedData } from '@/core/wording/structured';
import { useToast } from '../kit/Toast';
import { FormLink } from '../shell/May';

/** Structured data that the page could carry: to be copied, and logged as a planned change. */
export function DataPart({ data, takeOn }: { data: readonly SuggestedData[]; takeOn: string }) {
  const [open, setOpen] = useState<string | null>(null);
  const say = useToast();
  return (
    <ul className="space-y-2">
      {data.map(({ type, reason, json, toFillIn }) => (
        <li key={type}>
          <b>{type}</b> <span className="muted">{reason}</span>{' '}
          {toFillIn.length > 0 && <span className="muted">To be filled in: {toFillIn.join(', ')}.</span>}{' '}
          <button
            type="button"
            className="inline-link"
            aria-expanded={open === type}
            onClick={() => setOpen(open === type ? null : type)}
          >
            {open === type ? 'hide it' : 'show it'}
          </button>{' '}
          <button
            type="button"
            className="inline-link"
            onClick={() =>
              void navigator.clipboard.writeText(json).then(
                () => say('Copied.'),
                () => {
                  setOpen(type);
                  say('It cannot be copied from here; it is shown, so that you can.', undefined, true);
                },
              )
            }
          >
            copy
          </button>{' '}
          <FormLink
            right="log"
            href={`${takeOn}&title=${encodeURIComponent(`Structured data: ${type}`)}`}
            className="inline-link"
          >
            plan it
          </FormLink>
          {open === type && (
            <pre tabIndex={0} className="hairline mt-1 max-h-72 overflow-auto border p-2 text-[0.75rem]">
              {json}
            </pre>
          )}
        </li>
      ))}
    </ul>
  );
}
