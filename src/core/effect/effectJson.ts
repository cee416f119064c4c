/* Comparisons of measures, net effects, marks and verdicts as the API answers with them. */

import { z } from 'zod';
import {
  byMeasure,
  byMetric,
  descriptionOf,
  isInPlaces,
  METRICS,
  VERDICT_MEASURES,
} from '../measures/registry';
import { jsonFrom } from '../model/json';
import type { Estimate } from './effect';

const comparison = z
  .object({
    before: z.number().nullable(),
    after: z.number().nullable(),
    difference: z.number().nullable(),
    ratio: z.number().nullable().meta({ description: 'after / before' }),
  })
  .meta({ id: 'Comparison' });

const places = z.object({
  before: z.number().nullable(),
  after: z.number().nullable(),
  placesGained: z.number().nullable().meta({ description: 'before - after: a gain is positive.' }),
});

/** A schema with a description, if there is one. */
const described = <S extends z.ZodType>(schema: S, description: string | undefined) =>
  description === undefined ? schema : schema.meta({ description });

export const metricsJson = z
  .object(
    byMetric((metric) => described(isInPlaces(metric) ? places : comparison, descriptionOf(metric).about)),
  )
  .meta({ id: 'Metrics' });

const ratioEffect = z.object({ ratio: z.number(), low: z.number(), high: z.number() }).meta({
  id: 'RatioEffect',
  description: 'Net of the yardstick, as a ratio: 1.24 is 24% above what the untouched pages suggest.',
});

const placesEffect = z
  .object({ placesGained: z.number(), low: z.number(), high: z.number() })
  .meta({ id: 'PlacesEffect' });

export const netJson = z
  .object(
    byMeasure((measure) => {
      const effect = isInPlaces(measure) ? placesEffect : ratioEffect;
      return described(effect.nullable(), descriptionOf(measure).netEffect);
    }),
  )
  .meta({ id: 'Net', description: 'Net effects with their 90% intervals; null where a side is absent.' });

export const markJson = z.enum(['lifted', 'dropped', 'held', 'unclear']).meta({ id: 'Mark' });
export const verdictJson = z.enum(['lifted', 'dropped', 'held', 'unclear', 'waiting']).meta({
  id: 'Verdict',
  description:
    'What plainly moved, whichever metric was expected: lifted or dropped (see movedIn), no change (held: inside ±10%), inconclusive (unclear), or collecting data (waiting).',
});
export const movedInJson = z.enum(VERDICT_MEASURES);
const estimateJson = jsonFrom(
  z
    .object({
      log: z.number(),
      standardError: z.number(),
      critical: z.number().meta({ description: 'Half the width of the 90% interval in standard errors.' }),
    })
    .meta({
      id: 'Estimate',
      description: 'A net effect on the log scale; of position of the ratio of positions.',
    }),
  (one: Estimate) => ({ ...one, log: one.net }),
);
export const estimatesJson = z.object(byMetric(() => estimateJson.nullable()));
export const metricMarksJson = z.object(byMetric(() => markJson.nullable()));
export const marksJson = z.object(
  byMeasure((measure) =>
    described(
      markJson.nullable(),
      METRICS.some((metric) => metric === measure) ? undefined : descriptionOf(measure).about,
    ),
  ),
);
