'use client';

import { useEffect, useState } from 'react';
import type { Act } from '../kit/attempt';

export type AskBrought = Act<[siteId: number, kind: string], string | null>;

/** What changes of the chosen kind have brought on this site so far, where enough were read. */
export function BroughtSoFar({ siteId, kind, ask }: { siteId: number; kind: string; ask: AskBrought }) {
  const [said, setSaid] = useState<{ of: string; sentence: string | null } | null>(null);
  useEffect(() => {
    let gone = false;
    ask(siteId, kind)
      .then((answer) => !gone && setSaid({ of: kind, sentence: answer.ok ? answer.value : null }))
      .catch(() => null);
    return () => {
      gone = true;
    };
  }, [siteId, kind, ask]);
  if (said?.of !== kind || said.sentence === null) return null;
  return <p className="muted mt-1 text-[0.85rem]">{said.sentence}</p>;
}
