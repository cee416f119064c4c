'use client';

import { AppLink } from '../kit/AppLink';
import { useState, type ReactNode } from 'react';
import type { FormResult } from '../kit/formResult';
import { ReadingStrips } from '../reading/strips/ReadingStrips';
import type { StripsData } from '../reading/strips/data';
import { useAct } from '../kit/useAct';
import { routes } from '../shell/routes';
import { useMay } from '../shell/May';

type Props = {
  siteId: number;
  name: string;
  named: boolean;
  about: string;
  pages: readonly { readonly id: number; readonly path: string }[];
  strips: StripsData;
  /** When its level shifted; null where it did not. */
  moved: ReactNode;
  rename: (siteId: number, pageIds: number[], name: string) => Promise<FormResult<null>>;
};

/** A group of pages that move together: its name, its strips, its pages. */
export function GroupPart({ siteId, name, named, about, pages, strips, moved, rename }: Props) {
  const [editing, setEditing] = useState(false);
  const [text, setText] = useState(named ? name : '');
  const { act, busy } = useAct();
  const mayEdit = useMay('edit');
  const keep = () =>
    act(
      () =>
        rename(
          siteId,
          pages.map(({ id }) => id),
          text.trim(),
        ),
      () => setEditing(false),
    );
  return (
    <section className="hairline min-w-0 border-t pt-2">
      <div className="flex items-baseline justify-between gap-4">
        <h2 className="min-w-0 font-serif text-[1.15rem] leading-snug font-semibold">{name}</h2>
        {mayEdit && !editing && (
          <button
            type="button"
            className="inline-link shrink-0 text-[0.85rem]"
            onClick={() => setEditing(true)}
          >
            Rename<span className="sr-only"> {name}</span>
          </button>
        )}
      </div>
      {editing && (
        <form
          className="my-1 flex flex-wrap items-baseline gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            keep();
          }}
        >
          <input
            autoFocus
            aria-label="Name of the group"
            className="input input-sm w-60"
            maxLength={80}
            value={text}
            placeholder={name}
            onChange={(e) => setText(e.target.value)}
          />
          <button type="submit" className="btn btn-primary btn-sm" disabled={busy}>
            Keep
          </button>
          <button type="button" className="inline-link text-[0.85rem]" onClick={() => setEditing(false)}>
            Leave it
          </button>
          <span className="muted text-[0.8rem]">Empty: by what its pages have in common.</span>
        </form>
      )}
      <p className="muted text-[0.9rem]">{about}</p>
      <ReadingStrips
        data={strips}
        summary={`Clicks, impressions and appeal of the group “${name}” day by day. ${about}`}
      />
      {moved && <div className="mt-1 text-[0.9rem]">{moved}</div>}
      <details className="mt-1 text-[0.85rem]">
        <summary>Its pages</summary>
        <ul className="mt-1 max-h-60 overflow-y-auto" tabIndex={0} aria-label={`Pages of ${name}`}>
          {pages.map(({ id, path }) => (
            <li key={id} className="break-all">
              <AppLink href={routes.page(siteId, id)} className="inline-link">
                {path}
              </AppLink>
            </li>
          ))}
        </ul>
      </details>
    </section>
  );
}
