import { z } from 'zod';
import { lineText } from './fields';

/** Where result pages are asked for; an empty address is nowhere. */
export const resultsAccessSchema = z.strictObject({
  address: z
    .string()
    .trim()
    .max(2048)
    .refine(
      (text) => text === '' || (/^https?:\/\//i.test(text) && URL.canParse(text)),
      'An address begins with https://.',
    ),
  /** Null keeps the one that is there. */
  token: lineText().max(500).nullable(),
  country: lineText().toLowerCase().max(40, 'At most 40 characters.'),
});
export type ResultsAccessInput = z.output<typeof resultsAccessSchema>;
