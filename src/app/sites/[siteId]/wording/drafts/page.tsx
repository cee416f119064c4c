import { createHash } from 'node:crypto';
import type { Metadata } from 'next';
import { AppLink } from '@/ui/kit/AppLink';
import { pagePath } from '@/core/address/address';
import { isoDay } from '@/core/calendar/day';
import { plural } from '@/core/words/format';
import { SiteContext } from '@/services/site/siteContext';
import { pagesToDraft } from '@/services/wording/pageDrafts';
import { findRound } from '@/store/rounds/rounds';
import { routes } from '@/ui/shell/routes';
import { today } from '@/store/clock';
import { Screen } from '@/ui/kit/Screen';
import { ViewForm } from '@/ui/kit/view/ViewForm';
import { DraftTable } from '@/ui/wording/DraftTable';
import { siteFromPath, type SitePageProps } from '../../site';
import { keepWork } from '../../rounds/actions';
import { planDrafts } from '../actions';

export const metadata: Metadata = { title: 'Drafts for several pages' };

type Text = string | string[] | undefined;
type Props = SitePageProps & { searchParams: Promise<{ pages?: Text; q?: Text; round?: Text }> };
const one = (text: Text) => (Array.isArray(text) ? text[0] : text) ?? '';

/** Drafts of titles for several pages in one table: pasted from a sheet, written here, or made from a pattern. */
export default async function DraftsPage({ params, searchParams }: Props) {
  const { db, site } = await siteFromPath((await params).siteId, 'edit');
  const wish = await searchParams;
  const asked = /^\d{1,15}$/.test(one(wish.round)) ? findRound(db, Number(one(wish.round))) : null;
  const round = asked?.siteId === site.id ? asked : null;
  const pasted = one(wish.pages)
    .slice(0, 100_000)
    .split(/\r\n|\r|\n/)
    .filter((line) => line.trim() !== '');
  const lines =
    pasted.length === 0 && round
      ? round.pages.map(({ page, newText }) =>
          [pagePath(page.address), ...(newText === null ? [] : [newText])].join('\t'),
        )
      : pasted;
  const words = one(wish.q).toLowerCase().split(/\s+/).filter(Boolean);
  // What was known when the round began stands in where a page was never fetched.
  const then = new Map(
    round?.pages.map(({ page, frozen }) => [
      page.id,
      {
        ...(frozen.title === null ? {} : { title: frozen.title }),
        ...(frozen.queries[0] ? { target: frozen.queries[0].text } : {}),
      },
    ]),
  );
  const { pages, unknown } = pagesToDraft(new SiteContext(db, site), { lines, words });
  // What is pasted anew is not mixed with what was typed over something else.
  const about = createHash('sha256')
    .update(JSON.stringify([round?.id, pasted, pages.map(({ page }) => page.id)]))
    .digest('base64url');
  return (
    <Screen
      title="Drafts for several pages"
      lead="Titles of a round in one table: paste pages from a sheet, with a draft beside each where there is one, or choose them by words of their path."
    >
      {round && (
        <p className="mb-3">
          For the round{' '}
          <AppLink href={routes.round(site.id, round.id, 'work')} className="inline-link">
            {round.name}
          </AppLink>
          ; pages that are not in it are passed over.
        </p>
      )}
      <ViewForm
        action={routes.pageDrafts(site.id)}
        keep={round ? { round: String(round.id) } : {}}
        fields={[
          { type: 'lines', name: 'pages', label: 'Pages, one a line; a draft after a tab', rows: 3 },
          { type: 'text', name: 'q', label: 'or words of their path', className: 'w-full' },
        ]}
        shown={{ pages: lines.join('\n'), q: one(wish.q) }}
        submit="Show them"
        body="grid max-w-4xl gap-3 md:grid-cols-[1fr_16rem_auto] md:items-end"
      />
      {unknown.length > 0 && (
        <p role="alert" className="mb-3 max-w-4xl border-l-3 border-(--band) pl-2">
          {plural(unknown.length, 'line')} {unknown.length === 1 ? 'names' : 'name'} no page of this site:{' '}
          {unknown.slice(0, 5).join(', ')}
          {unknown.length > 5 && ' and others'}.
        </p>
      )}
      {pages.length > 0 && (
        <DraftTable
          key={about}
          about={about}
          siteId={site.id}
          day={isoDay(today(site.timeZone))}
          {...(round ? { round: { id: round.id, keep: keepWork } } : {})}
          pages={pages.map(({ page, path, present, values, draft, given }) => ({
            ...{ id: page.id, path, present: present ?? then.get(page.id)?.title ?? null },
            values: { ...then.get(page.id), ...values },
            draft: given ?? draft ?? '',
          }))}
          plan={planDrafts}
        />
      )}
    </Screen>
  );
}
