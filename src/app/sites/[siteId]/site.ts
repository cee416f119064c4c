import { notFound, redirect } from 'next/navigation';
import { headers } from 'next/headers';
import { cache } from 'react';
import { may, type Principal, type Right } from '@/core/access/rights';
import type { Site } from '@/core/model/site';
import { database, type Db } from '@/store/database';
import { PATH_HEADER } from '@/store/access/toldHeaders';
import { findSite } from '@/store/sites';
import { askerNow } from '@/app/asker';
import { routes } from '@/ui/shell/routes';

export type SitePageProps = { params: Promise<{ siteId: string }> };

/** Who asks, who has to be somebody: others are sent to sign in. */
export async function knownAsker(): Promise<Principal> {
  const asker = await askerNow();
  if (asker.kind === 'nobody') redirect(routes.signIn((await headers()).get(PATH_HEADER) ?? '/'));
  return asker;
}

/**
 * The doorway of screens: the site that an address names, for whoever may do with it what the screen is for. One that is unknown,
 * or nothing to do with whoever asks, is not found; who may see it and not more is told so. Once a request.
 */
export const siteFromPath = cache(
  async (siteId: string, right: Right = 'read'): Promise<{ db: Db; site: Site; asker: Principal }> => {
    const asker = await knownAsker();
    const db = database();
    const site = /^\d{1,15}$/.test(siteId) ? findSite(db, Number(siteId)) : null;
    if (!site || !may(asker, 'read', site.id)) notFound();
    if (!may(asker, right, site.id)) redirect(routes.notYours(site.id, right));
    return { db, site, asker };
  },
);
