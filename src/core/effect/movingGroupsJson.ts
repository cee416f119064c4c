import { z } from 'zod';
import { addressJson } from '../model/json';

/** Pages that move together, as the API answers with them. */
export const groupsJson = z
  .object({
    learned: z
      .boolean()
      .meta({ description: 'Learned from how pages move; else as stated, or by their paths.' }),
    items: z.array(
      z.object({
        number: z.int().meta({ description: '0: pages that move with too few others.' }),
        name: z.string(),
        named: z.boolean(),
        pages: z.array(addressJson),
        mostly: z
          .string()
          .nullable()
          .meta({ description: 'The part of the site that more than half are in.' }),
        words: z.array(z.string()),
      }),
    ),
  })
  .meta({ id: 'MovingGroups' });
