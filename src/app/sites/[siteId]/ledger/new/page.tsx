import type { Metadata } from 'next';
import { findChange } from '@/store/changes';
import { today } from '@/store/clock';
import { unloggedOn } from '@/store/snapshots';
import { emptyForm, formAfter, formFound } from '@/ui/change/formValues';
import { siteFromPath, type SitePageProps } from '../../site';
import { FormFor } from '../form';

export const metadata: Metadata = { title: 'Log a change' };

type Wish = { page?: string; query?: string; after?: string; as?: string; found?: string };
type Props = SitePageProps & { searchParams: Promise<Wish> };

const KINDS = ['undo', 'rework', 'copy'] as const;

/** A page, a query, a change to go on from, or a difference found on a page, that is named in the address is filled in, so that other screens can link here. */
export default async function NewChangePage({ params, searchParams }: Props) {
  const { db, site } = siteFromPath((await params).siteId);
  const { page, query, after, as, found } = await searchParams;
  const before = /^\d{1,15}$/.test(after ?? '') ? findChange(db, Number(after)) : null;
  const kind = KINDS.find((one) => one === as);
  if (before?.siteId === site.id && kind)
    return <FormFor site={site} changeId={null} initial={formAfter(before, kind, today())} />;
  const unlogged = unloggedOn(db, site).find(({ snapshotId }) => String(snapshotId) === found);
  if (unlogged) {
    const { page: on, to, differences } = unlogged;
    return <FormFor site={site} changeId={null} initial={formFound(on.address, to, differences)} />;
  }
  const initial = {
    ...emptyForm(today()),
    ...(typeof page === 'string' ? { pages: [page] } : {}),
    ...(typeof query === 'string' ? { queries: query } : {}),
  };
  return <FormFor site={site} changeId={null} initial={initial} />;
}
