import { z } from 'zod';
import { estimatesJson, metricMarksJson, metricsJson, movedInJson, netJson } from '../effect/effectJson';
import { addressJson, dayJson, spanJson } from '../model/json';

/** A comparison of pages, a query or the whole site, as the API answers with it. */
export const siteComparisonJson = z
  .object({
    subject: z.object({
      pages: z.array(addressJson).nullable().meta({ description: 'Null: the whole site.' }),
      query: z.string().nullable(),
      device: z.string().nullable(),
    }),
    before: spanJson,
    after: spanJson,
    asOf: dayJson.nullable(),
    complete: z.boolean().meta({ description: 'Whether final figures reach over both spans.' }),
    metrics: metricsJson,
    net: netJson.nullable(),
    marks: metricMarksJson,
    movedIn: movedInJson.nullable(),
    estimates: estimatesJson.nullable(),
    control: z
      .object({ kind: z.enum(['yardstick', 'own-past']), pages: z.int() })
      .nullable()
      .meta({ description: 'The whole site is held against its own past.' }),
  })
  .meta({ id: 'SiteComparison' });
