'use client';

import { AppLink } from '../kit/AppLink';
import { useState, type ReactNode } from 'react';
import type { FormResult } from '../kit/formResult';
import { InlineForm } from '../kit/InlineForm';
import { ReadingStrips } from '../reading/strips/ReadingStrips';
import type { StripsData } from '../reading/strips/data';
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
  const mayEdit = useMay('edit');
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
        <div className="my-1">
          <InlineForm
            label="Name of the group"
            className="w-60"
            initial={named ? name : ''}
            placeholder={name}
            maxLength={80}
            optional
            submit="Keep"
            button="btn btn-primary btn-sm"
            cancel={{ text: 'Leave it', run: () => setEditing(false) }}
            run={(text) =>
              rename(
                siteId,
                pages.map(({ id }) => id),
                text,
              )
            }
            done={() => setEditing(false)}
            note={() => 'Empty: by what its pages have in common.'}
          />
        </div>
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
