'use client';

import { useEffect, useState } from 'react';
import { count } from '@/core/words/format';
import { routes } from '../shell/routes';

/** What is being worked out on a site, and how far it has come. */
type Progress = { what: string; done: number; of: number };

const EVERY_MS = 300;

/** Stands where an answer is being worked out: what is done, how much of it, and how fast it goes. */
export function UnderWay({ siteId, what }: { siteId: number; what: string }) {
  const [seen, setSeen] = useState<(Progress & { rate: number }) | null>(null);
  useEffect(() => {
    let ended = false;
    let first: (Progress & { at: number }) | null = null;
    const look = async () => {
      const answer = await fetch(routes.progress(siteId)).catch(() => null);
      const now = answer?.ok ? ((await answer.json()) as Progress | null) : null;
      if (ended) return;
      if (now) {
        if (first?.what !== now.what) first = { ...now, at: Date.now() };
        const seconds = (Date.now() - first.at) / 1000;
        setSeen({ ...now, rate: seconds > 0 ? (now.done - first.done) / seconds : 0 });
      }
    };
    void look();
    const timer = setInterval(() => void look(), EVERY_MS);
    return () => {
      ended = true;
      clearInterval(timer);
    };
  }, [siteId]);
  return (
    <div role="status" className="max-w-xl">
      <p className="font-serif text-lg">{seen ? `${seen.what} …` : `${what} …`}</p>
      <progress
        className="progress mt-2 w-full"
        aria-label={what}
        value={seen?.done}
        max={seen?.of ?? undefined}
      />
      <p className="muted mt-1 text-[0.85rem]">
        {seen
          ? `${count(seen.done)} of ${count(seen.of)} pages${seen.rate > 0 ? `, ${count(seen.rate)} a second` : ''}`
          : 'This takes a moment the first time after figures changed.'}
      </p>
    </div>
  );
}
