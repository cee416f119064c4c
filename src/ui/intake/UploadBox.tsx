'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { z } from 'zod';
import { EntityForm } from '../kit/EntityForm';
import { AS_TYPED, useEntityForm } from '../kit/useEntityForm';
import { useHydrated } from '../kit/useHydrated';
import { routes } from '../shell/routes';
import { DropBox } from '../kit/DropBox';

type Fate = { readonly name: string; readonly failure: string | null };

/** Takes files by choosing or dropping them. One alone is looked through at once; several stand in the list below. */
export function UploadBox({ siteId }: { siteId: number }) {
  const router = useRouter();
  const alive = useHydrated();
  const [sending, setSending] = useState<string | null>(null);
  const [sent, setSent] = useState<readonly Fate[]>([]);

  const send = async (files: readonly File[]) => {
    const fates: Fate[] = [];
    let last: number | null = null;
    for (const [i, file] of files.entries()) {
      setSending(files.length === 1 ? file.name : `${file.name} (${i + 1} of ${files.length})`);
      const result = await sendOne(siteId, file);
      if (typeof result === 'string') fates.push({ name: file.name, failure: result });
      else {
        fates.push({ name: file.name, failure: null });
        for (const { name, reason } of result.leftOut)
          fates.push({ name: `${file.name}: ${name}`, failure: reason });
        if (result.ids.length === 1 && result.leftOut.length === 0) last = result.ids[0]!;
      }
    }
    setSent(fates);
    if (files.length === 1 && last !== null) {
      router.push(routes.import(siteId, last));
      return;
    }
    setSending(null);
    router.refresh();
  };
  const failed = sent.filter(({ failure }) => failure !== null);

  return (
    <div>
      <DropBox
        multiple
        accept=".csv,.tsv,.txt,.gz,.xlsx,.zip,.jsonl,.ndjson,.parquet,text/csv"
        disabled={!alive || sending !== null}
        onFiles={(files) => void send(files)}
        className="min-h-24 border-2 px-4 py-4"
      >
        <span className="font-semibold">
          {sending ? `Sending ${sending} …` : 'Choose files, or drop them here'}
        </span>
        <span className="muted text-[0.85rem]">
          CSV in any usual dialect, also gzip or several in a ZIP; a spreadsheet (.xlsx); JSON Lines; Parquet.
          Nothing is stored before you have seen how it will be understood.
        </span>
      </DropBox>
      <details className="mt-2">
        <summary className="text-[0.9rem]">Paste rows instead</summary>
        <PasteForm busy={sending !== null} send={send} />
      </details>
      {failed.map(({ name, failure }) => (
        <p key={name} role="alert" className="mt-2 text-error">
          {failed.length > 1 || sent.length > 1 ? `${name}: ` : ''}
          {failure}
        </p>
      ))}
    </div>
  );
}

/** Takes rows that are pasted as if they were a file. */
function PasteForm({ busy, send }: { busy: boolean; send: (files: File[]) => Promise<void> }) {
  const form = useEntityForm<{ rows: string }, { rows: string }, null>({
    ...{ what: null, initial: { rows: '' }, codec: AS_TYPED, editing: false },
    schema: z.object({ rows: z.string().trim().min(1, 'Paste some rows first.') }),
    send: async (_, __, { given: { rows } }) => {
      await send([new File([rows], 'Pasted rows.csv', { type: 'text/csv' })]);
      return { ok: true, value: null };
    },
    done: () => undefined,
  });
  return (
    <EntityForm
      form={form}
      className="mt-1"
      body="space-y-2"
      buttons={
        <button
          type="submit"
          className="btn btn-outline btn-sm"
          disabled={busy || form.watch('rows').trim() === ''}
        >
          Preview these rows
        </button>
      }
    >
      <label className="block text-[0.85rem]">
        <span className="muted">
          From a spreadsheet or a text, the names of the columns in the first line.
        </span>
        <textarea
          {...form.register('rows')}
          aria-label="Rows to import"
          rows={5}
          className="textarea mt-1 w-full font-mono text-[0.8rem]"
          placeholder={'date\tpage\tclicks\timpressions\tposition'}
        />
      </label>
    </EntityForm>
  );
}

/** What came of a file: a draft, or several of an archive, and what was left out of that. */
type Sent = {
  readonly ids: readonly number[];
  readonly leftOut: readonly { readonly name: string; readonly reason: string }[];
};

/** Sends one file. Gives the numbers of its imports, or a sentence saying why it was not taken. */
async function sendOne(siteId: number, file: File): Promise<Sent | string> {
  try {
    const answer = await fetch(`${routes.intake(siteId)}/upload?fileName=${encodeURIComponent(file.name)}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/octet-stream' },
      body: file,
    });
    const body = (await answer.json()) as Partial<Sent> & { detail?: string };
    return answer.ok && body.ids && body.leftOut
      ? { ids: body.ids, leftOut: body.leftOut }
      : (body.detail ?? 'The server did not take the file.');
  } catch {
    return 'The file could not be sent.';
  }
}
