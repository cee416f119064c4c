'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Act } from '../kit/attempt';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';
import { routes } from '../shell/routes';
import { useMay } from '../shell/May';

type Props = {
  siteId: number;
  /** The query of the list's address, and how many pages it finds. */
  query: string;
  found: number;
  make: Act<[siteId: number, name: string, query: string], number>;
};

/** Makes a sheet of the pages that the list finds, under a name. */
export function MakeSheet({ siteId, query, found, make }: Props) {
  const [naming, setNaming] = useState(false);
  const [name, setName] = useState('');
  const { act, busy } = useAct();
  const say = useToast();
  const router = useRouter();
  const mayEdit = useMay('edit');
  if (found === 0 || !mayEdit) return null;
  if (!naming) {
    return (
      <button type="button" className="inline-link" onClick={() => setNaming(true)}>
        Make a sheet of {found === 1 ? 'it' : `these ${found}`}
      </button>
    );
  }
  return (
    <form
      className="flex items-baseline gap-1.5"
      onSubmit={(e) => {
        e.preventDefault();
        act(
          () => make(siteId, name.trim(), query),
          () => {
            say('The sheet is made and kept.');
            router.push(routes.sheets(siteId));
          },
        );
      }}
    >
      <input
        autoFocus
        required
        aria-label="Name of the sheet"
        className="input input-sm w-44"
        maxLength={80}
        value={name}
        onChange={(e) => setName(e.target.value)}
      />
      <button type="submit" className="inline-link" disabled={busy}>
        Make it
      </button>
    </form>
  );
}
