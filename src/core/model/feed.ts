import { z } from 'zod';
import { lineText } from './fields';

/** A feed to be set up: an address that answers with figures. */
export const newFeedSchema = z.strictObject({
  name: lineText().min(1, 'The feed needs a name.').max(100, 'At most 100 characters.'),
  address: z
    .string()
    .trim()
    .max(2048)
    .regex(/^https?:\/\/[^/\s]+/i, 'The address begins with https:// (or http://).')
    .refine((text) => URL.canParse(text), 'That is no address: its host or port cannot be.')
    .refine(
      (text) => !URL.canParse(text) || new URL(text).username + new URL(text).password === '',
      'The address must not hold a user name or password; give a token instead.',
    ),
  token: z
    .string()
    .trim()
    .max(4000)
    .regex(/^[\x21-\x7e]*$/, 'A token has no spaces and no letters beyond ASCII.')
    .transform((text) => text || null),
  daily: z.boolean(),
  allowPrivate: z.boolean(),
});
/** As it is typed, and as it is stored: without a token where none was given. */
export type FeedInput = z.input<typeof newFeedSchema>;
export type NewFeed = z.output<typeof newFeedSchema>;
