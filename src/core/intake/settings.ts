import { z } from 'zod';
import { parseIsoDay, type Day } from '../calendar/day';
import { FIELDS } from './columns';
import type { Stated } from './inspection';

const isoDate = z.iso.date('A day is written YYYY-MM-DD.');

/** What a person stated of a file; what is absent is recognised from the file. */
export const intakeSettingsSchema = z.object({
  mapping: z.partialRecord(z.enum(FIELDS), z.int().min(0).max(999).nullable()).optional(),
  dateOrder: z.enum(['year-first', 'day-first', 'month-first']).optional(),
  /** The days that all rows hold for, where they have no dates. */
  period: z.object({ firstDay: isoDate, lastDay: isoDate }).optional(),
});
export type IntakeSettings = z.infer<typeof intakeSettingsSchema>;

/** What settings state about a file, with the period as days. */
export function statedIn({ mapping, dateOrder, period }: IntakeSettings): Stated {
  return {
    mapping,
    dateOrder,
    period: period && {
      firstDay: parseIsoDay(period.firstDay) as Day,
      lastDay: parseIsoDay(period.lastDay) as Day,
    },
  };
}
