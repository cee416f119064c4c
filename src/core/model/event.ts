import type { EditStamp } from './editHistory';
import { z } from 'zod';
import { isoDay, parseIsoDay, type Day } from '../calendar/day';
import type { Span } from '../calendar/span';
import { isoDaySchema, lineText, optionalLinkSchema, optionalText } from './fields';

/** Kinds of outside event in the almanac and what they are called. */
export const EVENT_KINDS = {
  'algorithm-update': 'Algorithm update',
  'holiday-or-season': 'Holiday or season',
  outage: 'Outage',
  'tracking-fault': 'Tracking fault',
  campaign: 'Campaign',
  other: 'Other',
} as const;

export type EventKind = keyof typeof EVENT_KINDS;

/** An outside event of a site. `lastDay` is the first day where it lasted one day. */
export type OutsideEvent = Span & {
  readonly id: number;
  readonly siteId: number;
  readonly name: string;
  readonly kind: EventKind;
  readonly link: string | null;
  readonly note: string | null;
  /** The beginning of the paths of the pages it concerns; null for the whole site. */
  readonly group: string | null;
  /** Not shown on pictures; its doubts stand all the same. */
  readonly hidden: boolean;
};

/** Whether an event concerns any of some pages, given by their addresses. */
export function concerns({ group }: Pick<OutsideEvent, 'group'>, addresses: readonly string[]): boolean {
  return group === null || addresses.some((address) => new URL(address).pathname.startsWith(group));
}

export const newEventSchema = z
  .strictObject({
    name: lineText().min(1, 'The event needs a name.').max(120, 'At most 120 characters.'),
    kind: z.enum(Object.keys(EVENT_KINDS) as [EventKind, ...EventKind[]], 'Choose one of the kinds.'),
    firstDay: isoDaySchema,
    lastDay: z
      .union([isoDaySchema, z.literal('')], 'A day is written YYYY-MM-DD and must exist in the calendar.')
      .nullish()
      .transform((day) => day || null),
    link: optionalLinkSchema,
    note: optionalText(2000),
    group: optionalText(500)
      .refine(
        (path) => path === null || path.startsWith('/'),
        'A group of pages begins with /, as /guides/ does.',
      )
      .meta({
        description: 'The beginning of the paths of the pages it concerns; absent for the whole site.',
      }),
    hidden: z
      .boolean()
      .nullish()
      .transform((hidden) => hidden ?? false),
  })
  .refine((e) => e.lastDay === null || (parseIsoDay(e.lastDay) as Day) >= (parseIsoDay(e.firstDay) as Day), {
    path: ['lastDay'],
    message: 'The last day lies before the first.',
  });

/** An event as a form shows it and sends it; what is absent is empty. */
export type EventInput = {
  readonly name: string;
  readonly kind: string;
  readonly firstDay: string;
  readonly lastDay: string;
  readonly link: string;
  readonly note: string;
  readonly group: string;
  readonly hidden: boolean;
};

export function eventInputOf(event: OutsideEvent): EventInput {
  const { name, kind, firstDay, lastDay, link, note, group, hidden } = event;
  return {
    ...{ name, kind, firstDay: isoDay(firstDay), lastDay: isoDay(lastDay), hidden },
    ...{ link: link ?? '', note: note ?? '', group: group ?? '' },
  };
}

export type NewEvent = z.infer<typeof newEventSchema>;
export type NewEventInput = z.input<typeof newEventSchema>;

/** What an event said until an instant (ISO 8601, UTC). */
export type PastEvent = EditStamp & { readonly was: OutsideEvent };

const FIELD_NAMES = {
  name: 'name',
  kind: 'kind',
  firstDay: 'first day',
  lastDay: 'last day',
  link: 'source link',
  note: 'note',
  group: 'pages',
  hidden: 'shown on pictures',
} as const satisfies Partial<Record<keyof OutsideEvent, string>>;

/** The fields, by what they are called, in which two states of an event differ. */
export function changedEventFields(before: OutsideEvent, after: OutsideEvent): string[] {
  return (Object.keys(FIELD_NAMES) as (keyof typeof FIELD_NAMES)[])
    .filter((field) => before[field] !== after[field])
    .map((field) => FIELD_NAMES[field]);
}
