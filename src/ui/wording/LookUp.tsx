'use client';

import { useRouter } from 'next/navigation';
import type { Act } from '../kit/attempt';
import { InlineForm } from '../kit/InlineForm';
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
  const { act, busy } = useAct();
  const router = useRouter();
  const say = useToast();
  const done = (id: number) => {
    say('Looked up and kept.');
    router.push(routes.resultPage(siteId, id));
  };
  if (!useMay('edit')) return null;
  if (query !== undefined) {
    return (
      <button
        type="button"
        className="inline-link"
        disabled={busy}
        onClick={() => act(() => look(siteId, query, 'all'), done)}
      >
        {busy ? 'Looking …' : 'Look it up now'}
      </button>
    );
  }
  return (
    <InlineForm
      label="Query to look up"
      placeholder="a query"
      className="w-56"
      focus={false}
      submit="Look it up"
      button="btn btn-sm"
      run={(typed) => look(siteId, typed, 'all')}
      done={done}
    />
  );
}
