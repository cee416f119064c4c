import { z } from 'zod';
import { parseIsoDay } from '@/core/calendar/day';

/** Said of text in a day field that is no day. */
export const NO_DAY = 'No such day. Write it as 24 Nov 2026 or 2026-11-24.';

/** The value of a day field that may be empty: an ISO date or nothing. */
export const typedDay = z.string().refine((text) => text === '' || parseIsoDay(text) !== null, NO_DAY);
