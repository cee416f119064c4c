import { setTimeout as pause } from 'node:timers/promises';
import { ask } from '@/app/ask';
import type { DeskLine } from '@/core/desk/desk';
import type { Site } from '@/core/model/site';
import { desk } from '@/services/desk/desk';
import { SiteContext } from '@/services/site/siteContext';
import type { Db } from '@/store/database';

/** How long the desk waits for readings. Just after a start they are being made. */
const PATIENCE_MS = 1000;

/**
 * What is due on a site. Which changes plainly brought a drop is known to the readings: while they are still being made the desk
 * comes without them rather than late, and so it does where they cannot be had.
 */
export async function deskOf(db: Db, site: Site): Promise<readonly DeskLine[]> {
  const asked = ask('desk', { siteId: site.id }).catch(() => null);
  const lines = await Promise.race([asked, pause(PATIENCE_MS, null, { ref: false })]);
  return lines ?? desk(new SiteContext(db, site), new Map());
}
