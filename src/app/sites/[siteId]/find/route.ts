import { z } from 'zod';
import { operation } from '@/app/api/v1/doorway';
import { findPlaces } from '@/services/site/findPlaces';
import { SiteContext } from '@/services/site/siteContext';

/** What the go-anywhere list finds for what was typed. */
export const GET = operation(
  {
    summary: 'Find places of a site',
    on: 'site',
    may: 'read',
    query: z.object({ q: z.string().max(200).default('') }),
    answers: {},
  },
  ({ db, site, query: { q } }) => Response.json(findPlaces(new SiteContext(db, site), q)),
);
