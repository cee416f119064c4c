import { z } from 'zod';
import { EVENT_KINDS, type EventKind } from './event';
import { spanJson } from './json';

/** An event as the API answers with it. */
export const eventJson = z
  .object({
    id: z.int(),
    siteId: z.int(),
    name: z.string(),
    kind: z.enum(Object.keys(EVENT_KINDS) as [EventKind, ...EventKind[]]),
    ...spanJson.shape,
    link: z.string().nullable(),
    note: z.string().nullable(),
    group: z.string().nullable(),
    hidden: z.boolean(),
  })
  .meta({ id: 'Event' });
