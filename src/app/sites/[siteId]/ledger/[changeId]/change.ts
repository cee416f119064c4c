import { notFound } from 'next/navigation';
import type { Right } from '@/core/access/rights';
import type { Change } from '@/core/model/change';
import type { Site } from '@/core/model/site';
import { findChange } from '@/store/ledger/findChanges';
import { siteFromPath } from '../../site';

/** The change that the address of a screen names; one that is unknown, deleted or of another site is not found. */
export async function changeFromPath(
  params: { siteId: string; changeId: string },
  right: Right = 'read',
): Promise<{ site: Site; change: Change }> {
  const { db, site } = await siteFromPath(params.siteId, right);
  const change = /^\d{1,15}$/.test(params.changeId) ? findChange(db, Number(params.changeId)) : null;
  if (!change || change.siteId !== site.id) notFound();
  return { site, change };
}
