import { z } from 'zod';

/** What an opening was estimated to bring, in clicks a month, when it was taken on. */
export const takenOpeningSchema = z.strictObject({
  key: z.string().min(1).max(600),
  clicks: z.number(),
  low: z.number(),
  high: z.number(),
});
export type TakenOpening = z.infer<typeof takenOpeningSchema>;
