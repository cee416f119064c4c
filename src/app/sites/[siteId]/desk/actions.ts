'use server';

import { revalidatePath } from 'next/cache';
import { parseIsoDay } from '@/core/calendar/day';
import { database } from '@/store/database';
import { putOff } from '@/store/ledger/putOff';
import { findSite } from '@/store/sites';

/** Puts something on the desk off to a day; null brings it back. */
export async function putOffTo(siteId: number, key: string, until: string | null): Promise<void> {
  const db = database();
  const day = until === null ? null : parseIsoDay(until);
  if (!findSite(db, siteId) || key.length > 100 || (until !== null && day === null)) return;
  await putOff(db, siteId, key, day);
  revalidatePath('/sites', 'layout');
}
