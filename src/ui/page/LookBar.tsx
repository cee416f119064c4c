'use client';

import { useRouter } from 'next/navigation';
import { useOptimistic, useTransition } from 'react';
import { useToast } from '../parts/Toast';

type Props = {
  siteId: number;
  pageId: number;
  watched: boolean;
  /** Fetches the page; gives a sentence of what came of it. */
  look: (siteId: number, pageId: number) => Promise<string>;
  watch: (siteId: number, pageIds: number[], watched: boolean) => Promise<void>;
};

/** Has the page fetched now, or every day. */
export function LookBar({ siteId, pageId, watched, look, watch }: Props) {
  const router = useRouter();
  const say = useToast();
  const [looking, startLook] = useTransition();
  const [, startWatch] = useTransition();
  const [shown, show] = useOptimistic(watched);
  return (
    <span className="inline-flex flex-wrap items-center gap-x-4 gap-y-1">
      <button
        type="button"
        className="btn btn-outline btn-sm"
        disabled={looking}
        onClick={() =>
          startLook(async () => {
            say(await look(siteId, pageId));
            router.refresh();
          })
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
              await watch(siteId, [pageId], wanted);
              router.refresh();
            });
          }}
        />
        fetch it every day
      </label>
    </span>
  );
}
