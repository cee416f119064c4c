import { z } from 'zod';

/** A site as the API answers with it. */
export const siteJson = z.object({ id: z.int(), name: z.string(), address: z.string() }).meta({ id: 'Site' });
