import { z } from 'zod';
import { addressJson } from '../model/json';

const number = z.number().nullable();
const both = z.object({ appeal: number, clicks: number });

/** What a planned round could show, as the API answers with it. */
export const planJson = z
  .object({
    pages: z.int().meta({ description: 'How many of the pages can contribute.' }),
    pagesPerHalf: z.array(
      z.object({
        effect: z.number(),
        appeal: z
          .int()
          .nullable()
          .meta({ description: 'Pages in each half that find it 80 times in a hundred.' }),
        clicks: z.int().nullable(),
        power: both.meta({ description: 'How often these very pages would find it, from 0 to 1.' }),
      }),
    ),
    smallestEffect: both.meta({ description: 'The smallest rise that these pages would show, as a share.' }),
    days: z.int(),
    longer: z.object({ days: z.int(), smallestEffect: both }),
    leftOut: z.array(z.object({ page: addressJson, reason: z.string() })),
  })
  .meta({ id: 'RoundPlan' });
