'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { count } from '@/core/words/format';

type Seen = { rowsRead: number; state: 'queued' | 'running' | 'done' | 'failed' };

const ASK_EVERY_MS = 250;

type Props = {
  siteId: number;
  importId: number;
  initial: Seen;
  stop: (siteId: number, importId: number) => Promise<void>;
  finished: () => Promise<void>;
};

/** The moving count of an import that waits or runs, its rate, and a way to stop it. */
export function ImportProgress({ siteId, importId, initial, stop, finished }: Props) {
  const router = useRouter();
  const [seen, setSeen] = useState<Seen & { rate: number }>({ ...initial, rate: 0 });

  useEffect(() => {
    let gone = false;
    const began = Date.now();
    const ask = async () => {
      const answer = await fetch(`/api/v1/imports/${importId}`).catch(() => null);
      const now = answer?.ok ? ((await answer.json()) as Seen) : null;
      if (gone) return;
      if (now)
        setSeen({
          ...now,
          rate: (now.rowsRead - initial.rowsRead) / Math.max(0.2, (Date.now() - began) / 1000),
        });
      if (now?.state === 'done' || now?.state === 'failed') {
        await finished();
        router.refresh();
        return;
      }
      timer = setTimeout(() => void ask(), ASK_EVERY_MS);
    };
    let timer = setTimeout(() => void ask(), ASK_EVERY_MS);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [importId, initial.rowsRead, finished, router]);

  return (
    <div>
      <p className="font-serif text-3xl tabular-nums" role="status">
        {seen.state === 'queued' ? 'Waiting for its turn …' : `${count(seen.rowsRead)} rows read`}
      </p>
      {seen.rate > 0 && <p className="muted">{count(seen.rate)} rows a second</p>}
      <p className="mt-3">
        Nothing is stored before the whole file has been read. You can leave this screen; the import goes on.
      </p>
      <button
        type="button"
        className="btn btn-outline btn-sm mt-3"
        onClick={() => void stop(siteId, importId)}
      >
        Stop, and store nothing
      </button>
    </div>
  );
}
