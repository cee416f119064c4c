import { z } from 'zod';
import { listQuerySchema } from '@/core/lists/wish';
import type { Metrics } from '@/core/measures/comparison';

/* What a site, or a part of it, brought in total. */

const { from, to, device } = listQuerySchema.shape;

export const totalsQuerySchema = z.object({
  ...{ from, to },
  against: z
    .enum(['before', 'year'])
    .default('before')
    .meta({ description: 'As many days before, or the same days a year earlier (52 weeks).' }),
  device,
  path: z
    .string()
    .startsWith('/', 'A path starts with /.')
    .max(2048)
    .optional()
    .meta({ description: 'Only pages whose path begins so.' }),
});

const number = z.number().nullable();
const compared = z.object({ now: number, then: number, difference: number });

export const totalsJson = z
  .object({
    clicks: compared,
    impressions: compared,
    ctr: compared.meta({ description: 'Ratios: 0.031 is 3.1%.' }),
    position: z.object({
      now: number,
      then: number,
      placesGained: number.meta({ description: 'then - now: a gain is positive.' }),
    }),
  })
  .meta({ id: 'Totals', description: 'Null where a span has no figures.' });

export function totalsToJson(metrics: Metrics): z.infer<typeof totalsJson> {
  const one = ({ before, after, difference }: Metrics['clicks']) => ({
    ...{ now: after, then: before, difference },
  });
  const { position } = metrics;
  return {
    ...{ clicks: one(metrics.clicks), impressions: one(metrics.impressions), ctr: one(metrics.ctr) },
    position: { now: position.after, then: position.before, placesGained: position.placesGained },
  };
}
