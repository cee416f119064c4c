import { z } from 'zod';
import type { AuditQuery } from '@/store/access/auditEntries';

const day = z.string().regex(/^\d{4}-\d{2}-\d{2}$/);
const number = z.coerce.number().int().positive();

/** What stands in the address of the list of deeds; what cannot be understood counts as not said. */
const wishSchema = z.object({
  actor: z.string().max(200).optional().catch(undefined),
  words: z.string().trim().max(200).optional().catch(undefined),
  on: z.string().max(40).optional().catch(undefined),
  thing: number.optional().catch(undefined),
  from: day.optional().catch(undefined),
  to: day.optional().catch(undefined),
  before: number.optional().catch(undefined),
});

/** The deeds of a site that an address asks for. */
export function auditQuery(siteId: number, asked: Readonly<Record<string, unknown>>): AuditQuery {
  const { actor, words, on, thing, from, to, before } = wishSchema.parse(asked);
  return {
    ...{ siteId, words: words || undefined, on, thingId: thing, before },
    // An empty choice is none; whoever was alone has no name, and stands as “-”.
    actor: actor === undefined || actor === '' ? undefined : actor === '-' ? '' : actor,
    ...{ from, to },
  };
}
