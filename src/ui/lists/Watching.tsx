'use client';

import { useRouter } from 'next/navigation';
import type { Act } from '../kit/attempt';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';
import { IfMay } from '../shell/May';

type Props = {
  siteId: number;
  /** The query of the list's address. */
  query: string;
  found: number;
  watched: number;
  watch: Act<[siteId: number, query: string, watched: boolean]>;
};

/** How many of the pages found are fetched every day, and one click to have all of them fetched, or none. */
export function Watching({ siteId, query, found, watched, watch }: Props) {
  const router = useRouter();
  const say = useToast();
  const { busy, act } = useAct();
  const wanted = watched < found;
  const set = (to: boolean, done?: () => void) =>
    act(
      () => watch(siteId, query, to),
      () => {
        router.refresh();
        done?.();
      },
    );
  if (found === 0) return null;
  return (
    <span className="muted">
      {watched} fetched every day{' '}
      <IfMay right="edit">
        <button
          type="button"
          className="inline-link text-base-content"
          disabled={busy}
          onClick={() =>
            set(wanted, () =>
              say(wanted ? 'They are fetched every day from now on.' : 'They are no longer fetched.', () =>
                set(!wanted),
              ),
            )
          }
        >
          {wanted ? `Fetch ${found === 1 ? 'it' : `all ${found}`} every day` : 'Stop that'}
        </button>
      </IfMay>
    </span>
  );
}
