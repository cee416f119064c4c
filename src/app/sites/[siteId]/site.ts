import { notFound } from 'next/navigation';
import { cache } from 'react';
import type { Site } from '@/core/model/site';
import { database, type Db } from '@/store/database';
import { findSite } from '@/store/sites';

export type SitePageProps = { params: Promise<{ siteId: string }> };

/** The site that the address of a screen names, once a request; an unknown one is not found. */
export const siteFromPath = cache((siteId: string): { db: Db; site: Site } => {
  const db = database();
  const site = /^\d{1,15}$/.test(siteId) ? findSite(db, Number(siteId)) : null;
  if (!site) notFound();
  return { db, site };
});
