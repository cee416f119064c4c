'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Act } from '../kit/attempt';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';

type Props = {
  siteId: number;
  opening: { readonly key: string; readonly clicksAMonth: number };
  pass: Act<[siteId: number, passed: { key: string; reason: string; clicksAMonth: number }]>;
  takeUp: Act<[siteId: number, key: string]>;
};

/** Says of an opening that it is not worth it, and why; it comes back once it would bring much more. */
export function NotWorthIt({ siteId, opening, pass, takeUp }: Props) {
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useState('');
  const { act, busy } = useAct();
  const router = useRouter();
  const say = useToast();
  if (!asking) {
    return (
      <button type="button" className="inline-link" onClick={() => setAsking(true)}>
        Not worth it
      </button>
    );
  }
  return (
    <form
      className="flex flex-wrap items-baseline gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        act(
          () => pass(siteId, { ...opening, reason: reason.trim() }),
          () => {
            setAsking(false);
            router.refresh();
            say('Put aside. It comes back once it would bring half as much again.', () =>
              act(() => takeUp(siteId, opening.key), router.refresh),
            );
          },
        );
      }}
    >
      <input
        autoFocus
        required
        aria-label="Why it is not worth it"
        placeholder="why not"
        className="input input-sm w-52"
        maxLength={300}
        value={reason}
        onChange={(e) => setReason(e.target.value)}
      />
      <button type="submit" className="inline-link" disabled={busy}>
        Put it aside
      </button>
    </form>
  );
}
