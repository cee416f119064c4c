import { z } from 'zod';
import { parseIsoDay, type Day } from '../calendar/day';
import { isoDaySchema } from '../model/fields';
import { FIELDS } from './columns';
import { LEDGER_FIELDS } from './ledgerColumns';
import { CHOICES } from './counted';
import type { Stated } from './inspection';

/** Longer than any export covers; a slip in a year is longer still. */
const LONGEST_PERIOD_DAYS = 1830;

/** The days that rows without dates hold for. */
export const periodSchema = z
  .strictObject({ firstDay: isoDaySchema, lastDay: isoDaySchema })
  .refine(({ firstDay, lastDay }) => firstDay <= lastDay, {
    path: ['lastDay'],
    message: 'The last day of the period lies before its first.',
  })
  .refine(({ firstDay, lastDay }) => parseIsoDay(lastDay)! - parseIsoDay(firstDay)! < LONGEST_PERIOD_DAYS, {
    path: ['lastDay'],
    message: `A period has at most ${LONGEST_PERIOD_DAYS} days.`,
  });

/** What a person stated of a file; what is absent is recognised from the file. */
export const intakeSettingsSchema = z.strictObject({
  mapping: z.partialRecord(z.enum(FIELDS), z.int().min(0).max(999).nullable()).optional(),
  dateOrder: z.enum(['year-first', 'day-first', 'month-first']).optional(),
  /** The line of the head, from 1, where it is not the one that is found. */
  headLine: z.int().min(1).max(1000).optional(),
  /**
   * Values that count, of columns that split rows into kinds; the usual ones if none are stated.
   */
  counted: z.partialRecord(z.enum(CHOICES), z.array(z.string().max(500)).max(500)).optional(),
  /** How a sheet of changes is to be read, where the file is one. */
  ledger: z
    .strictObject({
      mapping: z.partialRecord(z.enum(LEDGER_FIELDS), z.int().min(0).max(999).nullable()).optional(),
      /** The type that is meant by what the sheet calls it, in lower case. */
      kinds: z.record(z.string().max(40), z.string().min(1).max(40)).optional(),
      /** Whether rows of one day and wording become one change. */
      join: z.boolean().optional(),
    })
    .optional(),
  /** The days that all rows hold for, where they have no dates. */
  period: periodSchema.optional(),
});
export type IntakeSettings = z.infer<typeof intakeSettingsSchema>;

/** What settings state about a file, with the period as days. */
export function statedIn({ mapping, dateOrder, headLine, counted, period }: IntakeSettings): Stated {
  return {
    mapping,
    dateOrder,
    headLine,
    counted,
    period: period && {
      firstDay: parseIsoDay(period.firstDay) as Day,
      lastDay: parseIsoDay(period.lastDay) as Day,
    },
  };
}
