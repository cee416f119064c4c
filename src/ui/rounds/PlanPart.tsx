import { AppLink } from '../kit/AppLink';
import { pagePath } from '@/core/address/address';
import { isAboutAppeal, type PageRef } from '@/core/model/change';
import { ABSENT, count, plural, share } from '@/core/words/format';
import { Part } from '../reading/HowTo';
import { routes } from '../shell/routes';
import { FiguresTable } from '../kit/table/FiguresTable';

type Both = { readonly appeal: number | null; readonly clicks: number | null };
type Plan = {
  readonly pages: number;
  readonly pagesPerHalf: readonly (Both & { readonly effect: number; readonly power: Both })[];
  readonly smallestEffect: Both;
  readonly days: number;
  readonly longer: { readonly days: number; readonly smallestEffect: Both };
  readonly leftOut: readonly { readonly page: PageRef; readonly reason: string; readonly taken: boolean }[];
};

/** What pages could show as a round, before anything is done. */
export function PlanPart({
  siteId,
  plan,
  all,
  kind,
}: {
  siteId: number;
  plan: Plan;
  all: number;
  kind: string;
}) {
  const by = isAboutAppeal(kind) ? 'appeal' : 'clicks';
  const least = plan.smallestEffect[by];
  const longer = plan.longer.smallestEffect[by];
  return (
    <div className="mb-6 max-w-5xl">
      <p className="font-serif text-[1.2rem] leading-snug">
        {plan.pages < 4 || least === null ? (
          <>
            These {plural(all, 'page')} say too little for two halves: {plan.pages} of them can contribute,
            and four are the least.
          </>
        ) : (
          <>
            With {plan.pages} of these {plural(all, 'page')}, half of them first, a rise of{' '}
            <b>{share(least)}</b> in {by} would be found eight times in ten within {plan.days} days
            {longer !== null && `, ${share(longer)} within ${plan.longer.days}`}.
          </>
        )}
      </p>
      <div className="mt-3 grid gap-x-10 gap-y-4 md:grid-cols-2">
        <Part title="Pages that are needed">
          <FiguresTable
            label="Pages that are needed"
            className="dense text-[0.88rem] [&_thead_th]:whitespace-normal"
            rows={plan.pagesPerHalf}
            rowKey={({ effect }) => effect}
            columns={[
              { id: 'to find a rise of', cell: ({ effect }) => share(effect) },
              {
                id: 'pages a half, by appeal',
                cell: ({ appeal }) => (appeal === null ? ABSENT : count(appeal)),
              },
              { id: 'by clicks', cell: ({ clicks }) => (clicks === null ? ABSENT : count(clicks)) },
              {
                id: 'these find it, of 100 times, by appeal',
                cell: ({ power }) => (power.appeal === null ? ABSENT : share(power.appeal)),
              },
              {
                id: 'power by clicks',
                name: 'by clicks',
                cell: ({ power }) => (power.clicks === null ? ABSENT : share(power.clicks)),
              },
            ]}
          />
          <p className="muted mt-1 text-[0.78rem]">
            Found: eight times in ten, with one false call in ten where nothing was done, over {plan.days}{' '}
            days.
          </p>
        </Part>
        {plan.leftOut.length > 0 && (
          <Part title="Pages that cannot contribute">
            <ul
              className="max-h-44 overflow-y-auto text-[0.88rem]"
              tabIndex={0}
              aria-label="Pages that cannot contribute"
            >
              {plan.leftOut.map(({ page, reason, taken }) => (
                <li key={page.id}>
                  <AppLink href={routes.page(siteId, page.id)} className="inline-link">
                    {pagePath(page.address)}
                  </AppLink>{' '}
                  {reason}
                  {taken ? ', and stays out' : ''}
                </li>
              ))}
            </ul>
          </Part>
        )}
      </div>
    </div>
  );
}
