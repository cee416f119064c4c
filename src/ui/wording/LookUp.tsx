'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Act } from '../kit/attempt';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';
import { routes } from '../shell/routes';
import { useMay } from '../shell/May';

type Device = 'all' | 'desktop' | 'mobile';
type Props = {
  siteId: number;
  query?: string;
  look: Act<[siteId: number, query: string, device: Device], number>;
};

/** Asks the source what a search shows today; with a query that one, else one that is typed. */
export function LookUp({ siteId, query, look }: Props) {
  const [typed, setTyped] = useState('');
  const { act, busy } = useAct();
  const router = useRouter();
  const say = useToast();
  const ask = (text: string) =>
    act(
      () => look(siteId, text, 'all'),
      (id) => {
        say('Looked up and kept.');
        router.push(routes.resultPage(siteId, id));
      },
    );
  if (!useMay('edit')) return null;
  if (query !== undefined) {
    return (
      <button type="button" className="inline-link" disabled={busy} onClick={() => ask(query)}>
        {busy ? 'Looking …' : 'Look it up now'}
      </button>
    );
  }
  return (
    <form
      className="flex items-center gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        ask(typed);
      }}
    >
      <input
        required
        aria-label="Query to look up"
        placeholder="a query"
        className="input input-sm w-56"
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
      />
      <button type="submit" className="btn btn-sm" disabled={busy}>
        {busy ? 'Looking …' : 'Look it up'}
      </button>
    </form>
  );
}
