'use client';

import { useRouter } from 'next/navigation';
import { useState, type DragEvent } from 'react';
import { useAlive } from '../parts/useAlive';
import { routes } from '../shell/routes';

/** Takes a file by choosing or dropping it, and goes on to look through it. */
export function UploadBox({ siteId }: { siteId: number }) {
  const router = useRouter();
  const alive = useAlive();
  const [over, setOver] = useState(false);
  const [sending, setSending] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);

  const send = async (file: File | undefined) => {
    if (!file) return;
    setError(null);
    setSending(file.name);
    try {
      const answer = await fetch(
        `${routes.intake(siteId)}/upload?fileName=${encodeURIComponent(file.name)}`,
        {
          method: 'POST',
          headers: { 'Content-Type': 'text/csv' },
          body: file,
        },
      );
      const body = (await answer.json()) as { id?: number; detail?: string };
      if (!answer.ok || body.id === undefined)
        throw new Error(body.detail ?? 'The server did not take the file.');
      router.push(routes.import(siteId, body.id));
    } catch (cause) {
      setError(cause instanceof Error ? cause.message : 'The file could not be sent.');
      setSending(null);
    }
  };
  const drop = (e: DragEvent) => {
    e.preventDefault();
    setOver(false);
    const files = [...e.dataTransfer.files];
    if (files.length > 1) setError('One file at a time, please.');
    else void send(files[0]);
  };

  return (
    <div>
      <label
        onDragOver={(e) => {
          e.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={drop}
        className={`flex min-h-28 cursor-pointer flex-col items-center justify-center border-2 border-dashed px-4 py-5 text-center focus-within:outline-2 ${
          over ? 'border-base-content bg-(--marked)' : 'border-(--muted)'
        }`}
      >
        <input
          type="file"
          accept=".csv,.tsv,.txt,text/csv"
          className="sr-only"
          disabled={!alive || sending !== null}
          onChange={(e) => void send(e.target.files?.[0])}
        />
        <span className="font-semibold">
          {sending ? `Sending ${sending} …` : 'Choose a CSV file, or drop it here'}
        </span>
        <span className="muted text-[0.85rem]">
          Daily rows by page, or by page and query. Nothing is stored before you have seen how it will be
          understood.
        </span>
      </label>
      {error && (
        <p role="alert" className="mt-2 text-error">
          {error}
        </p>
      )}
    </div>
  );
}
