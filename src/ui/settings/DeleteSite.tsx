'use client';

import { useRouter } from 'next/navigation';
import { count, plural } from '@/core/words/format';
import type { Act } from '../kit/attempt';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';
import { routes } from '../shell/routes';

type Props = {
  siteId: number;
  name: string;
  /** What goes with it. */
  contents: Readonly<
    Record<'changes' | 'events' | 'rounds' | 'reports' | 'imports' | 'pages' | 'rows', number>
  >;
  keptDays: number;
  remove: Act<[siteId: number]>;
  putBack: Act<[siteId: number]>;
};

/** Says what goes with a site, and deletes it. */
export function DeleteSite({ siteId, name, contents, keptDays, remove, putBack }: Props) {
  const { act, busy } = useAct();
  const say = useToast();
  const router = useRouter();
  const { changes, events, rounds, reports, imports, pages, rows } = contents;
  const parts = [
    plural(changes, 'change'),
    plural(events, 'event'),
    plural(rounds, 'round'),
    plural(reports, 'report'),
    `the figures of ${plural(pages, 'page')} from ${plural(imports, 'file')} (${count(rows)} rows)`,
  ];
  return (
    <section aria-labelledby="delete-site">
      <h2 id="delete-site" className="text-lg">
        Delete this site
      </h2>
      <p className="muted mt-1 mb-2 text-[0.9rem]">
        With it go {parts.slice(0, -1).join(', ')} and {parts.at(-1)}. For {keptDays} days it can be put back,
        on “Add a site”; then all of it is gone, except in backups.
      </p>
      <details>
        <summary className="inline-link min-h-7 w-fit cursor-pointer">Delete it …</summary>
        <button
          type="button"
          className="btn btn-sm mt-2 text-error"
          disabled={busy}
          onClick={() =>
            act(
              () => remove(siteId),
              () => {
                router.push(routes.newSite());
                say(`“${name}” is deleted.`, () =>
                  act(
                    () => putBack(siteId),
                    () => router.push(routes.ledger(siteId)),
                  ),
                );
              },
            )
          }
        >
          Delete {name} with all that it has
        </button>
      </details>
    </section>
  );
}
