/* Routines: what to look at, step by step, and when it comes again. */

import { inMarkdown } from '../report/escape';
import ICAL from 'ical.js';
import { z } from 'zod';
import { asDay, isoDay, parseIsoDay, type Day } from '../calendar/day';
import { isoDaySchema, lineText } from '../model/fields';
import { ruleInWords } from './recurrence';

/** A step in one's own words, with a view of the site that it begins from. */
export type RoutineStep = { readonly text: string; readonly link: string | null };

export type Routine = {
  readonly id: number;
  readonly siteId: number;
  readonly name: string;
  readonly steps: readonly RoutineStep[];
  /** When it comes again, as RFC 5545 writes it (RRULE), from its first day on. */
  readonly rule: string;
  readonly firstDay: Day;
};

const LONGEST_RULE = 200;
/** Occurrences that are gone through at most: ten years of days. */
const MOST_OCCURRENCES = 3660;

/** The rule as the library reads it; null where it is none, or comes more than once a day. */
function readRule(text: string): ICAL.Recur | null {
  try {
    const rule = ICAL.Recur.fromString(text.replace(/^RRULE:/i, '').toUpperCase());
    return ['DAILY', 'WEEKLY', 'MONTHLY', 'YEARLY'].includes(rule.freq) ? rule : null;
  } catch {
    return null;
  }
}

export const newRoutineSchema = z.strictObject({
  name: lineText().min(1, 'The routine needs a name.').max(120, 'At most 120 characters.'),
  steps: z
    .array(
      z.strictObject({
        text: lineText().min(1, 'A step says what to do.').max(500, 'At most 500 characters.'),
        link: lineText()
          .max(1000)
          .regex(/^\/[^/\\]|^$/, 'A link is the address of a view of this site, from its first slash on.')
          .nullish()
          .transform((link) => link || null),
      }),
    )
    .min(1, 'A routine has at least one step.')
    .max(40, 'At most 40 steps.'),
  rule: lineText()
    .max(LONGEST_RULE)
    .refine(
      (text) => readRule(text) !== null,
      'That is no rule of RFC 5545, such as FREQ=MONTHLY;BYDAY=1MO.',
    ),
  firstDay: isoDaySchema,
});
export type NewRoutine = z.output<typeof newRoutineSchema>;

/** That a step was done for the day on which it was due. */
export type RoutineDone = { readonly dueOn: Day; readonly step: number; readonly person: string | null };

/**
 * The days on which a routine is due within some days, in their order. Source: RFC 5545, 3.3.10.
 * @example dueDays({ rule: 'FREQ=MONTHLY;BYDAY=1MO', firstDay }, from, to) // first Mondays
 */
export function dueDays({ rule, firstDay }: Pick<Routine, 'rule' | 'firstDay'>, from: Day, to: Day): Day[] {
  const iterator = readRule(rule)?.iterator(ICAL.Time.fromDateString(isoDay(firstDay)));
  const days: Day[] = [];
  for (let i = 0; iterator && i < MOST_OCCURRENCES; i++) {
    const next = iterator.next();
    if (!next) break;
    const day = parseIsoDay(next.toString().slice(0, 10));
    if (day === null || day > to) break;
    if (day >= from) days.push(asDay(day));
  }
  return days;
}

/** A due day that is passed over stays due so long. */
const LATE_DAYS = 62;

/** The day of which a routine is due now: the last one of which a step is still to be done; null where there is none. */
export function dueNow(routine: Routine, done: readonly RoutineDone[], today: Day): Day | null {
  const last = dueDays(routine, asDay(today - LATE_DAYS), today).at(-1);
  if (last === undefined) return null;
  const ticked = new Set(done.filter(({ dueOn }) => dueOn === last).map(({ step }) => step));
  return routine.steps.every((_, i) => ticked.has(i)) ? null : last;
}

const YEAR = 366;

/** The next day after today on which it is due; null where it comes no more within a year. */
export function dueNext(routine: Pick<Routine, 'rule' | 'firstDay'>, today: Day): Day | null {
  return dueDays(routine, asDay(today + 1), asDay(today + YEAR))[0] ?? null;
}

/** A routine as Markdown, to be handed on; `home` is the address of the site's views. */
export function routineMarkdown(
  { name, steps, rule }: Pick<Routine, 'name' | 'steps' | 'rule'>,
  home: string,
): string {
  const line = ({ text, link }: RoutineStep, i: number) => {
    const said = inMarkdown(text);
    // Brackets may stand in an address, and would end it here.
    const address = encodeURI(`${home}${link}`).replaceAll('(', '%28').replaceAll(')', '%29');
    return `${i + 1}. ${link === null ? said : `[${said}](${address})`}`;
  };
  return `# ${inMarkdown(name)}\n\nRepeats ${ruleInWords(rule) ?? `by \`${rule}\``}\n\n${steps.map(line).join('\n')}\n`;
}

/** The routines that come ready. */
export const READY_ROUTINES: readonly Pick<NewRoutine, 'name' | 'steps' | 'rule'>[] = [
  {
    name: 'A monthly look',
    rule: 'FREQ=MONTHLY;BYDAY=1MO',
    steps: [
      { text: 'See what is due and what fell', link: '/desk' },
      {
        text: 'Go through what is chosen too little, take on what is worth it',
        link: '/openings?kind=chosen-too-little',
      },
      {
        text: 'Queries within reach: positions 5 to 20 with clicks',
        link: '/queries?position.min=5.01&position.max=20.99&clicks.min=1',
      },
      { text: 'Decide on the readings that have become complete', link: '/ledger' },
      { text: 'See what each kind of change has brought', link: '/scorebook' },
      { text: 'Make the report, and send it', link: '/reports' },
    ],
  },
  {
    name: 'A round of titles',
    rule: 'FREQ=MONTHLY;BYMONTH=3,9;BYDAY=2MO',
    steps: [
      {
        text: 'Choose ten to twenty pages that are chosen too little',
        link: '/rounds/new?openings=chosen-too-little',
      },
      { text: 'See what the results say for their searches', link: '/wording' },
      { text: 'Draft the titles, draw the halves, make the first', link: '/rounds' },
      { text: 'Ask for the reindex, and see that the results show them', link: '/rounds' },
      { text: 'After five weeks read the halves, and decide on the second', link: '/rounds' },
    ],
  },
];
