'use client';

import { useRouter } from 'next/navigation';
import type { Act } from '../kit/attempt';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';
import { routes } from '../shell/routes';

type Props = {
  siteId: number;
  changeId: number;
  title: string;
  remove: Act<[siteId: number, changeId: number]>;
  restore: Act<[siteId: number, kind: 'change', id: number]>;
};

/** Deletes at once and offers to take it back, instead of asking beforehand. */
export function DeleteChange({ siteId, changeId, title, remove, restore }: Props) {
  const router = useRouter();
  const say = useToast();
  const { busy, act } = useAct();
  const putBack = () =>
    act(
      () => restore(siteId, 'change', changeId),
      () => router.push(routes.change(siteId, changeId)),
    );
  const run = () =>
    act(
      () => remove(siteId, changeId),
      () => {
        router.push(routes.ledger(siteId));
        say(`“${title}” was deleted.`, putBack);
      },
    );
  return (
    <button type="button" className="inline-link" disabled={busy} onClick={run}>
      Delete
    </button>
  );
}
