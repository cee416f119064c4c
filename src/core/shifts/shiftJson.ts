import { z } from 'zod';
import { dayJson, spanJson } from '../model/json';

/** Level shifts, and what happened near each, as the API answers with them. */
export const shiftsJson = z.object({
  items: z.array(
    z
      .object({
        day: dayJson,
        ...spanJson.shape,
        ratio: z.number(),
        low: z.number(),
        high: z.number(),
        near: z.array(
          z.object({
            kind: z.enum(['change', 'event', 'difference', 'title', 'page', 'results']),
            day: dayJson,
            text: z.string(),
            id: z.int().nullable(),
          }),
        ),
      })
      .meta({
        id: 'Shift',
        description: 'A level was multiplied by `ratio`, on a day from firstDay to lastDay.',
      }),
  ),
});
