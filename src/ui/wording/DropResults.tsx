'use client';

import { useRouter } from 'next/navigation';
import type { Act } from '../parts/attempt';
import { useToast } from '../parts/Toast';
import { useAct } from '../parts/useAct';
import { routes } from '../shell/routes';

type Props = {
  siteId: number;
  resultPageId: number;
  drop: Act<[siteId: number, id: number]>;
  putBack: Act<[siteId: number, id: number]>;
};

/** Deletes a result page; it can be put back. */
export function DropResults({ siteId, resultPageId, drop, putBack }: Props) {
  const { act, busy } = useAct();
  const say = useToast();
  const router = useRouter();
  return (
    <button
      type="button"
      className="inline-link"
      disabled={busy}
      onClick={() =>
        act(
          () => drop(siteId, resultPageId),
          () => {
            router.push(routes.wording(siteId));
            say('The result page is deleted.', () =>
              act(
                () => putBack(siteId, resultPageId),
                () => router.push(routes.resultPage(siteId, resultPageId)),
              ),
            );
          },
        )
      }
    >
      Delete
    </button>
  );
}
