/* Recurrence in words: the rules that a form offers, and any simple rule as people say it. */

const WEEKDAYS = {
  MO: 'Monday',
  TU: 'Tuesday',
  WE: 'Wednesday',
  TH: 'Thursday',
  FR: 'Friday',
  SA: 'Saturday',
  SU: 'Sunday',
} as const;
const ORDINALS: Readonly<Record<string, string>> = {
  '1': 'first',
  '2': 'second',
  '3': 'third',
  '4': 'fourth',
  '-1': 'last',
};

/** The rules (RFC 5545) that are offered, the usual ones first. */
export const OFFERED_RULES: readonly string[] = [
  ...Object.keys(WEEKDAYS)
    .slice(0, 5)
    .map((day) => `FREQ=WEEKLY;BYDAY=${day}`),
  'FREQ=WEEKLY;INTERVAL=2;BYDAY=MO',
  ...['1MO', '1TU', '1WE', '1TH', '1FR', '-1FR'].map((day) => `FREQ=MONTHLY;BYDAY=${day}`),
  'FREQ=MONTHLY;BYMONTHDAY=1',
  'FREQ=MONTHLY;INTERVAL=3;BYDAY=1MO',
  'FREQ=YEARLY',
];

/**
 * A rule in words; null for one that says more than weekdays, days of the month and an interval.
 * @example ruleInWords('FREQ=MONTHLY;BYDAY=1MO') // "every first Monday of the month"
 * @example ruleInWords('FREQ=WEEKLY;INTERVAL=2;BYDAY=MO') // "every second week on Monday"
 */
export function ruleInWords(rule: string): string | null {
  const parts = new Map(
    rule
      .toUpperCase()
      .replace(/^RRULE:/, '')
      .split(';')
      .map((part) => part.split('=', 2) as [string, string]),
  );
  const interval = Number(parts.get('INTERVAL') ?? '1');
  const [day, dayOfMonth] = [parts.get('BYDAY'), parts.get('BYMONTHDAY')];
  const known = ['FREQ', 'INTERVAL', 'BYDAY', 'BYMONTHDAY'];
  if ([...parts.keys()].some((name) => !known.includes(name)) || !Number.isInteger(interval)) return null;
  const every = (unit: string) =>
    interval === 1 ? `every ${unit}` : interval === 2 ? `every second ${unit}` : `every ${interval} ${unit}s`;
  switch (parts.get('FREQ')) {
    case 'DAILY':
      return day || dayOfMonth ? null : every('day');
    case 'WEEKLY': {
      if (dayOfMonth) return null;
      const days = day?.split(',').map((one) => WEEKDAYS[one as keyof typeof WEEKDAYS]);
      if (!days) return every('week');
      if (days.some((one) => one === undefined)) return null;
      const named = days.length === 1 ? days[0]! : `${days.slice(0, -1).join(', ')} and ${days.at(-1)}`;
      return interval === 1 ? `every ${named}` : `${every('week')} on ${named}`;
    }
    case 'MONTHLY': {
      if (dayOfMonth) return day ? null : `${every('month')} on day ${dayOfMonth}`;
      if (!day) return every('month');
      const match = /^(-?\d)([A-Z]{2})$/.exec(day);
      const [ordinal, weekday] = [ORDINALS[match?.[1] ?? ''], WEEKDAYS[match?.[2] as keyof typeof WEEKDAYS]];
      if (!ordinal || !weekday) return null;
      return interval === 1
        ? `every ${ordinal} ${weekday} of the month`
        : `${every('month')} on the ${ordinal} ${weekday}`;
    }
    case 'YEARLY':
      return day || dayOfMonth ? null : every('year');
    default:
      return null;
  }
}
