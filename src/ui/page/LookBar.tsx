'use client';

import { useRouter } from 'next/navigation';
import { useOptimistic, useTransition } from 'react';
import { attempt, failureOf, type Act } from '../kit/attempt';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';
import { useMay } from '../shell/May';

type Props = {
  siteId: number;
  pageId: number;
  watched: boolean;
  /** Fetches the page; gives a sentence of what came of it. */
  look: Act<[siteId: number, pageId: number], string>;
  watch: Act<[siteId: number, pageIds: number[], watched: boolean]>;
};

/** Has the page fetched now, or every day. */
export function LookBar({ siteId, pageId, watched, look, watch }: Props) {
  const router = useRouter();
  const say = useToast();
  const { busy: looking, act } = useAct();
  const [, startWatch] = useTransition();
  const [shown, show] = useOptimistic(watched);
  if (!useMay('edit')) return watched && <span className="muted text-[0.85rem]">fetched every day</span>;
  return (
    <span className="inline-flex flex-wrap items-center gap-x-4 gap-y-1">
      <button
        type="button"
        className="btn btn-outline btn-sm"
        disabled={looking}
        onClick={() =>
          act(
            () => look(siteId, pageId),
            (said) => {
              say(said);
              router.refresh();
            },
          )
        }
      >
        {looking ? 'Fetching it …' : 'Fetch it now'}
      </button>
      <label className="inline-flex items-center gap-2 text-[0.85rem]">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={shown}
          onChange={(e) => {
            const wanted = e.target.checked;
            startWatch(async () => {
              show(wanted);
              const result = await attempt(() => watch(siteId, [pageId], wanted));
              if (result.ok) router.refresh();
              else say(failureOf(result), undefined, true);
            });
          }}
        />
        fetch it every day
      </label>
    </span>
  );
}
