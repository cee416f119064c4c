import { z } from 'zod';
import { parseIsoDay } from '../calendar/day';

/** Days that figures, changes and events can be of: a slip in a year is not taken for one. */
const [FIRST_YEAR, LAST_YEAR] = [1995, 2100];

/** A day as scripts and forms write it, `YYYY-MM-DD`; it must exist in the calendar, and lie within what makes sense. */
export const isoDaySchema = z
  .string()
  .refine((text) => parseIsoDay(text) !== null, 'A day is written YYYY-MM-DD and must exist in the calendar.')
  .refine(
    (text) => parseIsoDay(text) === null || (text >= `${FIRST_YEAR}` && text < `${LAST_YEAR + 1}`),
    `A day lies in the years ${FIRST_YEAR} to ${LAST_YEAR}.`,
  )
  .meta({ format: 'date', example: '2026-09-14' });

/** Text of one line: line breaks and other control characters become spaces. */
export function lineText(): z.ZodString {
  return z
    .string()
    .overwrite((text) => text.replace(/[\p{Cc}\p{Zl}\p{Zp}]+/gu, ' '))
    .trim();
}

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
  (text) => text === null || (/^https?:\/\/\S+$/i.test(text) && URL.canParse(text)),
  'A link begins with http:// or https://.',
);
