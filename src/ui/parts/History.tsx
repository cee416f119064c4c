'use client';

import { useRouter } from 'next/navigation';
import { useTransition } from 'react';
import type { Edit } from '@/core/words/edits';
import { plural } from '@/core/words/format';
import { useToast } from './Toast';

type Props = { edits: readonly Edit[]; restore: (entry: number) => Promise<void> };

/** The edits of something with their times; each can be taken back. */
export function History({ edits, restore }: Props) {
  const router = useRouter();
  const say = useToast();
  const [busy, start] = useTransition();
  if (edits.length === 0) return null;
  const putBack = (entry: number) =>
    start(async () => {
      await restore(entry);
      say('It says again what it said before that edit.');
      router.refresh();
    });
  return (
    <details className="mt-4 text-[0.93rem]">
      <summary className="font-semibold">History, {plural(edits.length, 'edit')}</summary>
      <ol className="mt-1 space-y-1">
        {edits.map(({ id, at, fields }) => (
          <li key={id} className="flex flex-wrap gap-x-4">
            <span className="muted tabular-nums">{at.slice(0, 16).replace('T', ' ')} UTC</span>
            <span>{fields.join(', ')}</span>
            <button type="button" className="inline-link" disabled={busy} onClick={() => putBack(id)}>
              Go back to before it
            </button>
          </li>
        ))}
      </ol>
    </details>
  );
}
