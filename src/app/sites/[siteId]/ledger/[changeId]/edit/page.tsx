import type { Metadata } from 'next';
import { formOf } from '@/ui/change/formValues';
import { FormFor } from '../../form';
import { changeFromPath } from '../change';

export const metadata: Metadata = { title: 'Edit a change' };

export default async function EditChangePage({
  params,
}: {
  params: Promise<{ siteId: string; changeId: string }>;
}) {
  const { site, change } = await changeFromPath(await params, 'edit');
  return <FormFor site={site} changeId={change.id} initial={formOf(change)} />;
}
