'use client';

import { AppLink } from '../kit/AppLink';
import { useEffect, useState, type SyntheticEvent } from 'react';
import { count } from '@/core/words/format';
import { useHydrated } from '../kit/useHydrated';
import { routes } from '../shell/routes';
import { DropBox } from '../kit/DropBox';

type Seen = {
  readonly state: 'queued' | 'running' | 'done' | 'failed';
  readonly rowsRead: number;
  readonly rowsTotal: number | null;
  readonly siteId: number | null;
  readonly failure: string | null;
};

const ASK_EVERY_MS = 500;
const IMPORT = '/api/v1/sites/import';

/** Takes a site in that was saved as a whole elsewhere, and shows how far that is. */
export function SiteArchiveForm() {
  const alive = useHydrated();
  const [file, setFile] = useState<File | null>(null);
  const [sending, setSending] = useState(false);
  const [id, setId] = useState<number | null>(null);
  const [seen, setSeen] = useState<Seen | null>(null);
  const [failure, setFailure] = useState<string | null>(null);

  const send = async (event: SyntheticEvent) => {
    event.preventDefault();
    if (!file) return;
    setSending(true);
    setFailure(null);
    setSeen(null);
    const answer = await fetch(`${IMPORT}?fileName=${encodeURIComponent(file.name.slice(0, 200))}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/zip' },
      body: file,
    }).catch(() => null);
    const body = (await answer?.json().catch(() => null)) as { id?: number; detail?: string } | null;
    setSending(false);
    if (answer?.ok && body?.id !== undefined) setId(body.id);
    else setFailure(body?.detail ?? 'The file could not be sent.');
  };

  useEffect(() => {
    if (id === null) return;
    let timer: ReturnType<typeof setTimeout>;
    let gone = false;
    const ask = async () => {
      const answer = await fetch(`${IMPORT}?id=${id}`).catch(() => null);
      const now = answer?.ok ? ((await answer.json()) as Seen) : null;
      if (gone) return;
      if (now) setSeen(now);
      if (now?.state === 'done' || now?.state === 'failed') {
        setFailure(now.failure);
        setId(null);
      } else timer = setTimeout(() => void ask(), ASK_EVERY_MS);
    };
    void ask();
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [id]);

  const busy = sending || id !== null;
  return (
    <form onSubmit={(event) => void send(event)} className="space-y-3">
      <DropBox
        accept=".zip,application/zip"
        label="A saved site"
        disabled={!alive || busy}
        onFiles={([chosen]) => setFile(chosen ?? null)}
      >
        {file?.name ?? 'Choose a saved site, or drop it here'}
      </DropBox>
      {busy && (
        <div>
          <p role="status" className="tabular-nums">
            {progressText(sending, seen)}
          </p>
          <progress
            className="progress mt-1 block w-full"
            aria-label="How far the site has been read"
            {...(seen?.state === 'running' && { value: seen.rowsRead, max: seen.rowsTotal ?? 1 })}
          />
        </div>
      )}
      {failure && (
        <p role="alert" className="text-error">
          {failure}
        </p>
      )}
      {seen?.state === 'done' && seen.siteId !== null && (
        <p role="status">
          All of it is here, {count(seen.rowsTotal ?? 0)} rows.{' '}
          <AppLink href={routes.ledger(seen.siteId)} className="inline-link">
            To its ledger
          </AppLink>
        </p>
      )}
      <button type="submit" className="btn" disabled={!file || busy}>
        Bring it in
      </button>
    </form>
  );
}

function progressText(sending: boolean, seen: Seen | null): string {
  if (sending) return 'Sending …';
  if (seen?.state !== 'running') return 'Waiting for its turn …';
  return `${count(seen.rowsRead)} of ${count(seen.rowsTotal ?? 0)} rows`;
}
