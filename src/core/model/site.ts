import { z } from 'zod';
import type { AddressRules } from './addressRules';
import { LANGUAGES, type Language } from './languages';
import { lineText } from './fields';

/** A site as it is stored, with the settings that shape its readings. Days are whole numbers of days. */
export type Site = {
  readonly id: number;
  readonly name: string;
  readonly address: string;
  readonly windowDays: number;
  readonly settlingDays: number;
  readonly provisionalDays: number;
  /** Files can be undone for so many days at least; older ones may be folded together. */
  readonly undoDays: number;
  /** Hosts on private networks or this machine whose pages may be fetched. */
  readonly privateHosts: readonly string[];
  /** Words of searches for the site itself; none for those that its name and address have in common. */
  readonly brandWords: readonly string[];
  /** The language of its pages and searches. */
  readonly language: Language;
  /** What a click, and a conversion, is worth in the site's own currency; null where nobody said. */
  readonly worthOfClick: number | null;
  readonly worthOfConversion: number | null;
  /** IANA time zone by which days begin; null for that of the server. */
  readonly timeZone: string | null;
  /** A page's weekly clicks have to fall by this share, and by this many times its ordinary weekly movement, to be listed. */
  readonly fallShare: number;
  readonly fallBeyond: number;
  /** Which written addresses are one page. */
  readonly rules: AddressRules;
};

export const DEFAULT_WINDOW_DAYS = 28;
export const DEFAULT_SETTLING_DAYS = 3;
export const DEFAULT_PROVISIONAL_DAYS = 3;
export const DEFAULT_UNDO_DAYS = 90;

export const DEFAULT_FALL_SHARE = 0.2;
export const DEFAULT_FALL_BEYOND = 3;

/** Days each side of a change; a year at most. */
export const windowDaysSchema = z
  .int('A whole number of days, please.')
  .min(1, 'A span needs at least one day.')
  .max(364, 'A span can have at most 364 days.');

/** Days left out after a change. */
export const settlingDaysSchema = z
  .int('A whole number of days, please.')
  .min(0, 'Settling days cannot be negative.')
  .max(90, 'At most 90 settling days.');

/** A time zone by its IANA name. */
export const timeZoneSchema = z
  .string()
  .trim()
  .max(60)
  .refine(isTimeZone, 'Not a time zone. Use an IANA name, such as Europe/Vienna.');

function isTimeZone(name: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: name });
    return name !== '';
  } catch {
    return false;
  }
}

export const newSiteSchema = z.strictObject({
  name: lineText().min(1, 'The site needs a name.').max(120, 'At most 120 characters.'),
  address: z
    .string()
    .trim()
    .min(1, 'The site needs an address, such as https://www.quillow-bees.example.')
    .max(2048),
  timeZone: timeZoneSchema
    .nullish()
    .meta({ description: 'IANA time zone by which days begin; that of the server where absent.' }),
});

const worthSchema = z
  .number('A number, please.')
  .positive('More than nothing, or left empty.')
  .max(1_000_000, 'At most a million.');

export const siteSettingsSchema = z.strictObject({
  name: newSiteSchema.shape.name,
  windowDays: windowDaysSchema,
  settlingDays: settlingDaysSchema,
  provisionalDays: z
    .int('A whole number of days, please.')
    .min(0, 'Provisional days cannot be negative.')
    .max(14, 'At most 14 provisional days.'),
  undoDays: z
    .int('A whole number of days, please.')
    .min(1, 'At least one day.')
    .max(3650, 'At most 3650 days.'),
  privateHosts: z
    .array(
      z
        .string()
        .trim()
        .toLowerCase()
        .regex(
          /^(?:https?:\/\/)?(?:[a-z0-9.-]+|\[[0-9a-f:]+\]|[0-9a-f]*:[0-9a-f:]+)(?::\d{1,5})?$/,
          'A host is a name or a number, with its port where that is not the usual one: 192.168.1.4:8080.',
        ),
    )
    .max(20, 'At most 20 hosts.'),
  brandWords: z
    .array(lineText().toLowerCase().min(2, 'At least two letters.').max(80, 'At most 80 characters.'))
    .max(40, 'At most 40 words.'),
  language: z.enum(LANGUAGES),
  worthOfClick: worthSchema.nullable(),
  worthOfConversion: worthSchema.nullable(),
  timeZone: timeZoneSchema.nullable(),
  fallShare: z.number('A number, please.').min(0.05, 'At least 5%.').max(0.95, 'At most 95%.'),
  fallBeyond: z.number('A number, please.').min(1, 'At least 1.').max(10, 'At most 10.'),
});

/** Every setting but one may be left out of an edit; what is left out stays as it is. */
export const siteEditSchema = siteSettingsSchema
  .partial()
  .refine((edit) => Object.keys(edit).length > 0, 'The edit names no setting.');

/** The settings of a site. */
export function settingsOf(site: Site): SiteSettings {
  const { name, windowDays, settlingDays, provisionalDays, undoDays, privateHosts, brandWords } = site;
  const { worthOfClick, worthOfConversion, language, timeZone, fallShare, fallBeyond } = site;
  return {
    ...{
      name,
      windowDays,
      settlingDays,
      provisionalDays,
      undoDays,
      worthOfClick,
      worthOfConversion,
      language,
    },
    ...{ timeZone, fallShare, fallBeyond },
    ...{ privateHosts: [...privateHosts], brandWords: [...brandWords] },
  };
}

export type NewSite = z.infer<typeof newSiteSchema>;
export type SiteSettings = z.infer<typeof siteSettingsSchema>;
