import type { Metadata } from 'next';
import { findChange } from '@/store/changes';
import { today } from '@/store/clock';
import { emptyForm, formAfter } from '@/ui/change/formValues';
import { siteFromPath, type SitePageProps } from '../../site';
import { FormFor } from '../form';

export const metadata: Metadata = { title: 'Log a change' };

type Wish = { page?: string; after?: string; as?: string };
type Props = SitePageProps & { searchParams: Promise<Wish> };

const KINDS = ['undo', 'rework', 'copy'] as const;

/** A page, or a change to go on from, that is named in the address is filled in, so that other screens can link here. */
export default async function NewChangePage({ params, searchParams }: Props) {
  const { db, site } = siteFromPath((await params).siteId);
  const { page, after, as } = await searchParams;
  const before = /^\d{1,15}$/.test(after ?? '') ? findChange(db, Number(after)) : null;
  const kind = KINDS.find((one) => one === as);
  if (before?.siteId === site.id && kind)
    return <FormFor site={site} changeId={null} initial={formAfter(before, kind, today())} />;
  const initial = { ...emptyForm(today()), ...(typeof page === 'string' ? { pages: [page] } : {}) };
  return <FormFor site={site} changeId={null} initial={initial} />;
}
