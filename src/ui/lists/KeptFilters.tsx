'use client';

import { AppLink } from '../kit/AppLink';
import { useState } from 'react';
import type { KeptFilter } from '@/core/lists/line';
import type { Act } from '../kit/attempt';
import { InlineForm } from '../kit/InlineForm';
import { useAct } from '../kit/useAct';
import { useToast } from '../kit/Toast';
import { useMay } from '../shell/May';

type Props = {
  siteId: number;
  subject: KeptFilter['subject'];
  /** The usual questions of the trade, and those that were kept under a name. */
  ready: readonly { readonly name: string; readonly href: string }[];
  kept: readonly { readonly id: number; readonly name: string; readonly query: string }[];
  /** The query of the address as it is now; empty where nothing is narrowed. */
  query: string;
  keep: Act<[siteId: number, filter: { subject: KeptFilter['subject']; name: string; query: string }]>;
  drop: Act<[siteId: number, id: number]>;
};

/** Filters to begin with: each opens as an ordinary one that can be altered, and can be kept under a name. */
export function KeptFilters({ siteId, subject, ready, kept, query, keep, drop }: Props) {
  const [naming, setNaming] = useState(false);
  const { act, busy } = useAct();
  const say = useToast();
  const mayEdit = useMay('edit');
  return (
    <nav aria-label="Filters" className="mb-2 flex flex-wrap items-baseline gap-x-3 gap-y-1 text-[0.85rem]">
      <span className="muted">Usual questions:</span>
      {ready.map((one) => (
        <AppLink key={one.name} href={one.href} className="inline-link">
          {one.name}
        </AppLink>
      ))}
      {kept.map((one) => (
        <span key={one.id}>
          <AppLink href={one.query || '?'} className="inline-link font-semibold">
            {one.name}
          </AppLink>{' '}
          {mayEdit && (
            <button
              type="button"
              className="muted hover:underline"
              disabled={busy}
              aria-label={`Keep ${one.name} no longer`}
              onClick={() =>
                act(
                  () => drop(siteId, one.id),
                  () =>
                    say(`“${one.name}” is no longer kept.`, () =>
                      act(() => keep(siteId, { subject, name: one.name, query: one.query })),
                    ),
                )
              }
            >
              drop
            </button>
          )}
        </span>
      ))}
      {naming ? (
        <InlineForm
          label="Name of the filter"
          className="w-44"
          maxLength={80}
          submit="Keep"
          run={(name) => keep(siteId, { subject, name, query })}
          done={() => {
            setNaming(false);
            say('Kept.');
          }}
        />
      ) : (
        mayEdit &&
        query !== '' && (
          <button type="button" className="inline-link" onClick={() => setNaming(true)}>
            Keep this filter
          </button>
        )
      )}
    </nav>
  );
}
