import type { Metadata } from 'next';
import { today } from '@/store/clock';
import { emptyForm } from '@/ui/change/formValues';
import { siteFromPath, type SitePageProps } from '../../site';
import { FormFor } from '../form';

export const metadata: Metadata = { title: 'Log a change' };

type Props = SitePageProps & { searchParams: Promise<{ page?: string }> };

/** A page named in the address is filled in, so that other screens can link here. */
export default async function NewChangePage({ params, searchParams }: Props) {
  const { site } = siteFromPath((await params).siteId);
  const { page } = await searchParams;
  const initial = { ...emptyForm(today()), ...(typeof page === 'string' ? { pages: [page] } : {}) };
  return <FormFor site={site} changeId={null} initial={initial} />;
}
