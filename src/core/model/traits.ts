import { z } from 'zod';
import { lineText } from './fields';
import { INTENTS } from './intents';

/** What people say of a page; a weight of 1 is as usual, and a page that is meant to sink is offered nothing. */
export const pageTraitsSchema = z.strictObject({
  target: lineText().min(1).max(500).nullable(),
  weight: z
    .number('The weight is a number: 1 is as usual, 2 twice as much.')
    .min(0, 'The weight is 0 or more: 1 is as usual, 2 twice as much.')
    .max(1000, 'The weight is 1,000 at most.')
    .nullable(),
  sink: z.boolean(),
});
export type PageTraits = Readonly<z.output<typeof pageTraitsSchema>>;

/** What people say of a query; null where it is guessed or nobody said. */
export const queryTraitsSchema = z.strictObject({
  targetPageId: z.int().positive('No page of this site has this URL.').nullable(),
  intent: z.enum(INTENTS).nullable(),
  brand: z.boolean().nullable(),
});
export type QueryTraits = Readonly<z.output<typeof queryTraitsSchema>>;
