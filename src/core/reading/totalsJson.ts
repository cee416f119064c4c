import { z } from 'zod';
import { jsonFrom } from '../model/json';
import type { Comparison, Metrics, PositionComparison } from '../measures/comparison';

const number = z.number().nullable();

const compared = jsonFrom(
  z.object({ now: number, then: number, difference: number }),
  ({ before, after, difference }: Comparison) => ({ now: after, then: before, difference }),
);

const position = jsonFrom(
  z.object({
    now: number,
    then: number,
    placesGained: number.meta({ description: 'then - now: a gain is positive.' }),
  }),
  ({ before, after, placesGained }: PositionComparison) => ({ now: after, then: before, placesGained }),
);

/** What a site brought in two spans, as the API answers with it. */
export const totalsJson = jsonFrom(
  z
    .object({
      clicks: compared,
      impressions: compared,
      ctr: compared.meta({ description: 'Ratios: 0.031 is 3.1%.' }),
      position,
    })
    .meta({ id: 'Totals', description: 'Null where a span has no figures.' }),
  (metrics: Metrics) => metrics,
);
