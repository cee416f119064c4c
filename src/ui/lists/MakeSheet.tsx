'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Act } from '../kit/attempt';
import { InlineForm } from '../kit/InlineForm';
import { useToast } from '../kit/Toast';
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
    <InlineForm
      label="Name of the sheet"
      className="w-44"
      maxLength={80}
      submit="Make it"
      run={(name) => make(siteId, name, query)}
      done={() => {
        say('The sheet is made and kept.');
        router.push(routes.sheets(siteId));
      }}
    />
  );
}
