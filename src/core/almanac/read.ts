import { parseJson } from '../parseJson';
import ICAL from 'ical.js';
import Papa from 'papaparse';
import { addDays, asDay, isoDay } from '../calendar/day';
import { EVENT_KINDS, newEventSchema, type EventKind, type NewEvent } from '../model/event';

/** Events read from a file, and a sentence for each one that could not be. */
export type ReadEvents = { readonly events: NewEvent[]; readonly problems: string[] };

/** No almanac has more. */
const MOST_EVENTS = 5000;

/**
 * Reads a file of events: a calendar (RFC 5545), a CSV with columns named as the almanac saves them, or a JSON list as the
 * interface gives it. Which it is shows at its beginning.
 */
export function readEvents(text: string): ReadEvents {
  const start = text.replace(/^\ufeff/, '').trimStart();
  if (/^BEGIN:VCALENDAR/i.test(start)) return readCalendar(start);
  if (start.startsWith('[') || start.startsWith('{')) return readJson(start);
  return readCsv(start);
}

function collect(rows: readonly { readonly where: string; readonly value: unknown }[]): ReadEvents {
  const events: NewEvent[] = [];
  const problems: string[] = [];
  for (const { where, value } of rows.slice(0, MOST_EVENTS)) {
    const parsed = newEventSchema.safeParse(value);
    if (parsed.success) events.push(parsed.data);
    else problems.push(`${where}: ${parsed.error.issues.map(({ message }) => message).join(' ')}`);
  }
  if (rows.length > MOST_EVENTS) problems.push(`Only the first ${MOST_EVENTS} events were read.`);
  return { events, problems };
}

/** The kind that some words mean; other where they mean none. */
function kindOf(words: string): EventKind {
  const plain = (text: string) => text.toLowerCase().replace(/[^a-z]/g, '');
  const found = Object.entries(EVENT_KINDS).find(
    ([kind, name]) => plain(kind) === plain(words) || plain(name) === plain(words),
  );
  return (found?.[0] as EventKind | undefined) ?? 'other';
}

function readCalendar(text: string): ReadEvents {
  let components: ICAL.Component[];
  try {
    components = new ICAL.Component(ICAL.parse(text) as never).getAllSubcomponents('vevent');
  } catch {
    return { events: [], problems: ['The calendar is broken: it cannot be read to its end.'] };
  }
  const read = components.map((component, i) => {
    const event = new ICAL.Event(component);
    const name = event.summary ?? '';
    const where = name || `Event ${i + 1}`;
    const first = event.startDate as ICAL.Time | null;
    if (!first) return { where, value: { name } };
    const firstDay = dayOf(first);
    const end = event.endDate as ICAL.Time | null;
    // The end of whole days is the day after the last (RFC 5545, 3.6.1).
    const lastDay = end && end.isDate ? addDays(dayOf(end), -1) : end ? dayOf(end) : firstDay;
    const categories = component.getAllProperties('categories').flatMap((one) => one.getValues() as string[]);
    const url = component.getFirstPropertyValue('url');
    const value = {
      name,
      kind: categories.map(kindOf).find((kind) => kind !== 'other') ?? 'other',
      firstDay: isoDay(firstDay),
      lastDay: isoDay(lastDay < firstDay ? firstDay : lastDay),
      link: typeof url === 'string' && /^https?:/i.test(url) ? url : null,
      note: event.description ?? null,
    };
    return { where, value, repeats: event.isRecurring() };
  });
  const found = collect(read);
  const repeating = read.filter((one) => 'repeats' in one && one.repeats).map(({ where }) => where);
  return {
    events: found.events,
    problems: [...found.problems, ...repeating.map((where) => `${where}: it repeats, and is noted once.`)],
  };
}

function dayOf(time: ICAL.Time) {
  return asDay(Math.floor(Date.UTC(time.year, time.month - 1, time.day) / 86_400_000));
}

function readCsv(text: string): ReadEvents {
  const { data } = Papa.parse<Record<string, string>>(text, {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (name) => name.trim().toLowerCase(),
  });
  const missing = ['name', 'first day'].filter(
    (name) => data[0] !== undefined && !Object.hasOwn(data[0], name),
  );
  if (data.length === 0 || missing.length > 0) {
    return {
      events: [],
      problems: [
        'An almanac as CSV has the columns name, kind, first day, last day; pages, link and note may be absent.',
      ],
    };
  }
  return collect(
    data.map((row, i) => ({
      where: `Line ${i + 2}`,
      value: {
        name: row.name,
        kind: kindOf(row.kind ?? ''),
        firstDay: row['first day']?.trim(),
        lastDay: row['last day']?.trim() || null,
        link: row.link,
        note: row.note,
        group: row.pages,
      },
    })),
  );
}

/** The numbers that the interface answers with besides say where an event stood, not what it is. */
function withoutIds(one: unknown): unknown {
  if (typeof one !== 'object' || one === null) return one;
  return Object.fromEntries(Object.entries(one).filter(([field]) => field !== 'id' && field !== 'siteId'));
}

function readJson(text: string): ReadEvents {
  try {
    const value = parseJson(text);
    if (Array.isArray(value))
      return collect(value.map((one, i) => ({ where: `Event ${i + 1}`, value: withoutIds(one) })));
  } catch {
    // Said below.
  }
  return { events: [], problems: ['The file is no JSON list of events.'] };
}
