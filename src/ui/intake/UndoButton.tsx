'use client';

import { useRouter } from 'next/navigation';
import { useTransition } from 'react';
import { useToast } from '../parts/Toast';

type Props = {
  siteId: number;
  importId: number;
  task: 'undo' | 'redo';
  undo: (siteId: number, importId: number, task: 'undo' | 'redo') => Promise<void>;
};

/** Takes a file out of the figures again, or lets it count once more. */
export function UndoButton({ siteId, importId, task, undo }: Props) {
  const router = useRouter();
  const say = useToast();
  const [busy, start] = useTransition();
  const act = () =>
    start(async () => {
      await undo(siteId, importId, task);
      say(task === 'undo' ? 'What the file had replaced stands again.' : 'The file counts again.');
      router.refresh();
    });
  return (
    <button type="button" className="btn btn-outline btn-sm" disabled={busy} onClick={act}>
      {busy ? 'One moment …' : task === 'undo' ? 'Undo this file' : 'Let it count again'}
    </button>
  );
}
