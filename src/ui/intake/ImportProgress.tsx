'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { count, plural } from '@/core/words/format';
import { attempt, type Act } from '../kit/attempt';
import { useAct } from '../kit/useAct';

type Seen = {
  readonly rowsRead: number;
  readonly bytesRead: number;
  readonly bytesTotal: number;
  readonly state: 'queued' | 'running' | 'done' | 'failed' | 'undone';
};

const ASK_EVERY_MS = 250;

type Props = {
  siteId: number;
  importId: number;
  initial: Seen;
  stop: Act<[siteId: number, importId: number]>;
  finished: Act<[siteId: number]>;
};

/** The moving count of an import that waits or runs, its rate, and a way to stop it. */
export function ImportProgress({ siteId, importId, initial, stop, finished }: Props) {
  const router = useRouter();
  const { busy, act } = useAct();
  const [seen, setSeen] = useState<Seen & { rate: number; secondsLeft: number | null }>({
    ...initial,
    rate: 0,
    secondsLeft: null,
  });

  useEffect(() => {
    let gone = false;
    const began = Date.now();
    const ask = async () => {
      const answer = await fetch(`/api/v1/imports/${importId}`).catch(() => null);
      const now = answer?.ok ? ((await answer.json()) as Seen) : null;
      if (gone) return;
      if (now) {
        const seconds = Math.max(0.2, (Date.now() - began) / 1000);
        const bytes = now.bytesRead - initial.bytesRead;
        setSeen({
          ...now,
          rate: (now.rowsRead - initial.rowsRead) / seconds,
          secondsLeft: bytes > 0 ? ((now.bytesTotal - now.bytesRead) / bytes) * seconds : null,
        });
      }
      if (now?.state === 'done' || now?.state === 'failed') {
        await attempt(() => finished(siteId));
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
  }, [siteId, importId, initial.rowsRead, initial.bytesRead, finished, router]);

  return (
    <div>
      <p className="font-serif text-3xl tabular-nums" role="status">
        {seen.state === 'queued' ? 'Waiting for its turn …' : `${count(seen.rowsRead)} rows read`}
      </p>
      <progress
        className="progress mt-2 block w-full max-w-md"
        aria-label="How far the file has been read"
        value={seen.bytesRead}
        max={Math.max(1, seen.bytesTotal)}
      />
      {seen.rate > 0 && (
        <p className="muted mt-1 tabular-nums">
          {count(seen.rate)} rows a second{timeLeft(seen)}
        </p>
      )}
      <p className="mt-3">
        Nothing counts before the whole file has been read. You can leave this screen; the import goes on.
      </p>
      <button
        type="button"
        className="btn btn-outline btn-sm mt-3"
        disabled={busy}
        onClick={() => act(() => stop(siteId, importId))}
      >
        Stop, and store nothing
      </button>
    </div>
  );
}

/** How long the rest of the file will take, in words. */
function timeLeft({ bytesRead, bytesTotal, secondsLeft }: Seen & { secondsLeft: number | null }): string {
  if (bytesRead >= bytesTotal && bytesTotal > 0) return '; all of it is read, and is now being stored';
  if (secondsLeft === null) return '';
  return secondsLeft < 60
    ? `, about ${plural(Math.ceil(secondsLeft), 'second')} left`
    : `, about ${plural(Math.ceil(secondsLeft / 60), 'minute')} left`;
}
