'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Act } from '../kit/attempt';
import { InlineForm } from '../kit/InlineForm';
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
  const { act } = useAct();
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
    <InlineForm
      label="Why it is not worth it"
      placeholder="why not"
      maxLength={300}
      submit="Put it aside"
      run={(reason) => pass(siteId, { ...opening, reason })}
      done={() => {
        setAsking(false);
        router.refresh();
        say('Put aside. It comes back once it would bring half as much again.', () =>
          act(() => takeUp(siteId, opening.key), router.refresh),
        );
      }}
    />
  );
}
