'use client';

import { useRouter } from 'next/navigation';
import { pagePath } from '@/core/address/address';
import type { Act } from '../kit/attempt';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';

/** A page that was moved, and whether its two addresses are one page by now. */
type Moved = {
  readonly from: string;
  readonly to: string;
  readonly joined: boolean;
  readonly addressIds: readonly number[];
};

type Props = {
  siteId: number;
  changeId: number;
  moved: readonly Moved[];
  /** Joins the old addresses to the new; gives a sentence of what came of it. */
  join: Act<[siteId: number, changeId: number], string>;
};

/** The addresses that a change moved pages from and to, and one click to make both one page. */
export function MovedPart({ siteId, changeId, moved, join }: Props) {
  const router = useRouter();
  const say = useToast();
  const { busy, act } = useAct();
  const apart = moved.filter(({ addressIds }) => addressIds.length > 0);
  const joinAll = () =>
    act(
      () => join(siteId, changeId),
      (said) => {
        say(said);
        router.refresh();
      },
    );
  return (
    <div>
      <ul>
        {moved.map(({ from, to, joined, addressIds }) => (
          <li key={from}>
            <span className="font-medium break-all">{pagePath(from)}</span> moved to{' '}
            <span className="font-medium break-all">{pagePath(to)}</span>:{' '}
            {joined
              ? 'joined, and read as one page.'
              : addressIds.length > 0
                ? 'two pages so far, of which each has one side of the figures.'
                : 'the old one has no figures.'}
          </li>
        ))}
      </ul>
      {apart.length > 0 && (
        <button type="button" className="btn btn-outline btn-sm mt-2" disabled={busy} onClick={joinAll}>
          Join them, so that the reading follows the page
        </button>
      )}
    </div>
  );
}
