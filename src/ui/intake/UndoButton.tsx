'use client';

import { useRouter } from 'next/navigation';
import type { Act } from '../kit/attempt';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';

type Props = {
  siteId: number;
  importId: number;
  task: 'undo' | 'redo';
  undo: Act<[siteId: number, importId: number, task: 'undo' | 'redo']>;
};

/** Takes a file out of the figures again, or lets it count once more. */
export function UndoButton({ siteId, importId, task, undo }: Props) {
  const router = useRouter();
  const say = useToast();
  const { busy, act: ask } = useAct();
  const act = () =>
    ask(
      () => undo(siteId, importId, task),
      () => {
        say(task === 'undo' ? 'What the file had replaced stands again.' : 'The file counts again.');
        router.refresh();
      },
    );
  return (
    <button type="button" className="btn btn-outline btn-sm" disabled={busy} onClick={act}>
      {busy ? 'One moment …' : task === 'undo' ? 'Undo this file' : 'Let it count again'}
    </button>
  );
}
