import { z } from 'zod';
import { parseIsoDay } from '../calendar/day';

/** A day as scripts and forms write it, `YYYY-MM-DD`; it must exist in the calendar. */
export const isoDaySchema = z
  .string()
  .refine((text) => parseIsoDay(text) !== null, 'A day is written YYYY-MM-DD and must exist in the calendar.')
  .meta({ format: 'date', example: '2026-09-14' });

/** Free text of bounded length, trimmed; empty text is taken as absent. */
export function optionalText(max: number) {
  return z
    .string()
    .trim()
    .max(max, `At most ${max.toLocaleString('en-GB')} characters.`)
    .nullish()
    .transform((text) => text || null);
}

/** A web link. Other schemes (javascript:, data:) are refused, since the link is shown for clicking. */
export const optionalLinkSchema = optionalText(2048).refine(
  (text) => text === null || (/^https?:\/\//i.test(text) && URL.canParse(text)),
  'A link begins with http:// or https://.',
);
