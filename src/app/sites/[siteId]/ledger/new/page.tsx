import type { Metadata } from 'next';
import { findChange } from '@/store/ledger/findChanges';
import { today } from '@/store/clock';
import { unloggedOn } from '@/store/evidence/snapshots';
import { pagePath } from '@/core/address/address';
import { MAX_PAGES_A_CHANGE } from '@/core/model/change';
import type { Site } from '@/core/model/site';
import { listPages, pageAddressOf } from '@/store/addresses/pages';
import { formAfter, formFound, formGiven, type GivenInAddress } from '@/ui/change/formValues';
import { siteFromPath, type SitePageProps } from '../../site';
import { FormFor } from '../form';

export const metadata: Metadata = { title: 'Log a change' };

type Text = string | string[] | undefined;
type Wish = Partial<Record<keyof GivenInAddress | 'matching' | 'after' | 'as' | 'found', Text>>;
type Props = SitePageProps & { searchParams: Promise<Wish> };

const KINDS = ['undo', 'rework', 'copy'] as const;
const one = (text: Text) => (Array.isArray(text) ? text[0] : text);

/**
 * What is named in the address is filled in, so that other screens, scripts and bookmarks can link here: pages, texts, a
 * query, all pages whose address has some letters, a change to go on from, or a difference found on a page.
 */
export default async function NewChangePage({ params, searchParams }: Props) {
  const { db, site } = await siteFromPath((await params).siteId, 'log');
  const wish = await searchParams;
  const after = one(wish.after) ?? '';
  const before = /^\d{1,15}$/.test(after) ? findChange(db, Number(after)) : null;
  const kind = KINDS.find((known) => known === one(wish.as));
  if (before?.siteId === site.id && kind)
    return <FormFor site={site} changeId={null} initial={formAfter(before, kind, today(site.timeZone))} />;
  const unlogged = unloggedOn(db, site).find(({ snapshotId }) => String(snapshotId) === one(wish.found));
  if (unlogged) {
    const { page: on, to, differences } = unlogged;
    return <FormFor site={site} changeId={null} initial={formFound(on.address, to, differences)} />;
  }
  const named = Array.isArray(wish.page) ? wish.page : wish.page === undefined ? [] : [wish.page];
  const matching = one(wish.matching)?.toLowerCase();
  const pages = [
    ...named.map((text) => shownPage(site, text)),
    ...(matching === undefined
      ? []
      : listPages(db, site.id)
          .map(({ address }) => pagePath(address))
          .filter((path) => path.toLowerCase().includes(matching))),
  ].slice(0, MAX_PAGES_A_CHANGE);
  const given = {
    ...{ pages, query: one(wish.query), title: one(wish.title), old: one(wish.old), new: one(wish.new) },
    ...{ kind: one(wish.kind), day: one(wish.day), metric: one(wish.metric), amount: one(wish.amount) },
    ...{ review: one(wish.review), planned: one(wish.planned), opening: one(wish.opening) },
  };
  return <FormFor site={site} changeId={null} initial={formGiven(given, today(site.timeZone))} />;
}

/** A page by its path where it is one of the site, as the form shows it; otherwise as it was written. */
function shownPage(site: Site, text: string): string {
  try {
    return pagePath(pageAddressOf(site, text));
  } catch {
    return text;
  }
}
