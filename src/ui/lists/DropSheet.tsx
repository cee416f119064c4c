'use client';

import { useRouter } from 'next/navigation';
import type { Act } from '../parts/attempt';
import { useToast } from '../parts/Toast';
import { useAct } from '../parts/useAct';

type Props = {
  siteId: number;
  id: number;
  name: string;
  drop: Act<[siteId: number, id: number, deleted: boolean]>;
};

/** Takes a sheet away; that can be undone. */
export function DropSheet({ siteId, id, name, drop }: Props) {
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
          () => drop(siteId, id, true),
          () => {
            router.refresh();
            say(`“${name}” was taken away.`, () => act(() => drop(siteId, id, false), router.refresh));
          },
        )
      }
    >
      Take away<span className="sr-only"> {name}</span>
    </button>
  );
}
