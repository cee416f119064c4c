import { z } from 'zod';
import { jsonFrom, type Immutable } from './json';

const fields = z
  .object({
    id: z.int(),
    siteId: z.int(),
    name: z.string(),
    address: z.string(),
    hasToken: z.boolean().meta({ description: 'The token itself is never given out.' }),
    daily: z.boolean(),
    allowPrivate: z.boolean(),
    state: z.enum(['idle', 'asked', 'fetching']),
    pagesFetched: z.int(),
    lastTriedAt: z.iso.datetime().nullable(),
    lastFetchedAt: z.iso.datetime().nullable(),
    failure: z.string().nullable(),
  })
  .meta({ id: 'Feed' });

type Feed = Immutable<Omit<z.input<typeof fields>, 'hasToken'>> & { readonly token: string | null };

/** A feed as the API answers with it. */
export const feedJson = jsonFrom(fields, (feed: Feed) => ({ ...feed, hasToken: feed.token !== null }));

export const feedsJson = z.object({ items: z.array(feedJson) }).meta({ id: 'Feeds' });
