'use client';

import { useRouter } from 'next/navigation';
import type { Act } from '../kit/attempt';
import { useAct } from '../kit/useAct';
import { routes } from '../shell/routes';

type Props = {
  sites: readonly {
    readonly id: number;
    readonly name: string;
    readonly address: string;
    readonly until: string;
  }[];
  putBack: Act<[siteId: number]>;
};

/** Sites that were deleted and can still be put back. */
export function DeletedSites({ sites, putBack }: Props) {
  const { act, busy } = useAct();
  const router = useRouter();
  if (sites.length === 0) return null;
  return (
    <section aria-labelledby="deleted-sites" className="hairline mt-8 border-t pt-5">
      <h2 id="deleted-sites" className="text-xl">
        Deleted sites
      </h2>
      <ul>
        {sites.map(({ id, name, address, until }) => (
          <li key={id} className="hairline flex flex-wrap items-baseline gap-x-3 border-b py-1.5">
            <span className="min-w-0 flex-1 break-words">
              {name}{' '}
              <span className="muted text-[0.9rem]">
                {address}, kept until {until}
              </span>
            </span>
            <button
              type="button"
              className="inline-link min-h-7"
              aria-label={`Put back ${name}`}
              disabled={busy}
              onClick={() =>
                act(
                  () => putBack(id),
                  () => router.push(routes.ledger(id)),
                )
              }
            >
              Put back
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
