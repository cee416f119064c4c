'use client';

import { AppLink } from '../kit/AppLink';
import { useEffect, useState } from 'react';
import { z } from 'zod';
import { count } from '@/core/words/format';
import { EntityForm } from '../kit/EntityForm';
import type { FormResult } from '../kit/formResult';
import { AS_TYPED, useEntityForm } from '../kit/useEntityForm';
import { routes } from '../shell/routes';
import { DropBox } from '../kit/DropBox';

type Seen = {
  readonly state: 'queued' | 'running' | 'done' | 'failed';
  readonly rowsRead: number;
  readonly rowsTotal: number | null;
  readonly siteId: number | null;
  readonly failure: string | null;
};

type Typed = { file: File | null };

const ASK_EVERY_MS = 500;
const IMPORT = '/api/v1/sites/import';

/** Takes a site in that was saved as a whole elsewhere, and shows how far that is. */
export function SiteArchiveForm() {
  const [id, setId] = useState<number | null>(null);
  const [seen, setSeen] = useState<Seen | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const form = useEntityForm<Typed, Typed, number>({
    ...{ what: null, initial: { file: null }, codec: AS_TYPED, editing: false },
    schema: z.object({ file: z.instanceof(File, { error: 'Choose a saved site first.' }) }),
    send: (_, __, { given: { file } }) => {
      setFailure(null);
      setSeen(null);
      return send(file!);
    },
    done: setId,
  });
  const file = form.watch('file');

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

  const busy = form.busy || id !== null;
  return (
    <EntityForm
      form={form}
      buttons={
        <button type="submit" className="btn" disabled={!file || busy}>
          Bring it in
        </button>
      }
    >
      <DropBox
        accept=".zip,application/zip"
        label="A saved site"
        disabled={busy}
        onFiles={([chosen]) => form.setValue('file', chosen ?? null)}
      >
        {file?.name ?? 'Choose a saved site, or drop it here'}
      </DropBox>
      {busy && (
        <div>
          <p role="status" className="tabular-nums">
            {progressText(form.busy, seen)}
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
    </EntityForm>
  );
}

/** Sends the file, and gives the number under which its import is followed. */
async function send(file: File): Promise<FormResult<number>> {
  const answer = await fetch(`${IMPORT}?fileName=${encodeURIComponent(file.name.slice(0, 200))}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/zip' },
    body: file,
  }).catch(() => null);
  const body = (await answer?.json().catch(() => null)) as { id?: number; detail?: string } | null;
  return answer?.ok && body?.id !== undefined
    ? { ok: true, value: body.id }
    : { ok: false, errors: [{ field: '', message: body?.detail ?? 'The file could not be sent.' }] };
}

function progressText(sending: boolean, seen: Seen | null): string {
  if (sending) return 'Sending …';
  if (seen?.state !== 'running') return 'Waiting for its turn …';
  return `${count(seen.rowsRead)} of ${count(seen.rowsTotal ?? 0)} rows`;
}
