import { z } from 'zod';
import { isoDaySchema } from '../model/fields';
import { LONGEST_PASSWORD } from './password';

/** What a read-only link can lead to. */
export const SHARED = ['report', 'reading', 'round'] as const;
export type Shared = (typeof SHARED)[number];

/** A read-only link as it is asked for. Its password is told to whoever is to read, so that it need not be long. */
export const newLinkSchema = z.strictObject({
  /** The last day on which it opens. */
  lastDay: isoDaySchema,
  password: z
    .string()
    .max(LONGEST_PASSWORD, 'At most 128 characters.')
    .refine((text) => text === '' || text.length >= 8, 'At least 8 characters, or none.')
    .default(''),
});
export type NewLink = z.output<typeof newLinkSchema>;

/** A link is good for a year at most. */
export const LONGEST_LINK_DAYS = 366;
