'use client';

import { AppLink } from './AppLink';
import { useRouter } from 'next/navigation';
import type { Edit } from '@/core/model/editHistory';
import { plural } from '@/core/words/format';
import { Actor } from './Actor';
import type { Act } from './attempt';
import { useToast } from './Toast';
import { useAct } from './useAct';

type Props = {
  edits: readonly Edit[];
  restore: Act<[entry: number]>;
  /** Where the edits before these are; null where there are none. */
  earlier: string | null;
  /** Whether earlier ones are shown than the last. */
  paged: boolean;
};

/** The edits of something with their times; each can be taken back. */
export function History({ edits, restore, earlier, paged }: Props) {
  const router = useRouter();
  const say = useToast();
  const { busy, act } = useAct();
  if (edits.length === 0 && !paged) return null;
  const putBack = (entry: number) =>
    act(
      () => restore(entry),
      () => {
        say('It says again what it said before that edit.');
        router.refresh();
      },
    );
  return (
    <details className="mt-4 text-[0.93rem]" id="history" open={paged}>
      <summary className="font-semibold">
        History, {earlier || paged ? 'earlier and later edits' : plural(edits.length, 'edit')}
      </summary>
      <ol className="mt-1 space-y-1">
        {edits.map(({ id, at, actor, actorId, fields }) => (
          <li key={id} className="flex flex-wrap gap-x-4">
            <span className="muted tabular-nums">{at.slice(0, 16).replace('T', ' ')} UTC</span>
            <span>
              {actor && (
                <>
                  <Actor name={actor} id={actorId} />:{' '}
                </>
              )}
              {fields.join(', ')}
            </span>
            <button type="button" className="inline-link" disabled={busy} onClick={() => putBack(id)}>
              Go back to before it
            </button>
          </li>
        ))}
      </ol>
      {earlier && (
        <p className="mt-1">
          <AppLink href={earlier} className="inline-link">
            Earlier edits
          </AppLink>
        </p>
      )}
    </details>
  );
}
