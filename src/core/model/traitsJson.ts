import { z } from 'zod';
import { INTENTS } from './intents';

/** A page and its traits, as the API answers with them. */
export const pageJson = z
  .object({
    id: z.int(),
    address: z.string(),
    target: z.string().nullable().meta({ description: 'The search that it is meant for.' }),
    weight: z.number().nullable().meta({ description: 'What it matters: 1 is as usual.' }),
    sink: z.boolean().meta({ description: 'Meant to sink: it is offered no work.' }),
  })
  .meta({ id: 'Page' });

/** A query and its traits, as the API answers with them. */
export const queryJson = z
  .object({
    id: z.int(),
    query: z.string(),
    target: z.string().nullable().meta({ description: 'The address of the page that is meant for it.' }),
    intent: z.enum(INTENTS).nullable().meta({ description: 'As somebody set it; null where it is guessed.' }),
    brand: z.boolean().nullable(),
  })
  .meta({ id: 'Query' });
