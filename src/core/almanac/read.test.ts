import { readEvents } from './read';

const CALENDAR = (...lines: string[]) =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//x//EN', ...lines, 'END:VCALENDAR', ''].join('\r\n');

test('whole days of a calendar end the day before their end, and one day needs none', () => {
  const { events, problems } = readEvents(
    CALENDAR(
      ...['BEGIN:VEVENT', 'UID:1', 'DTSTAMP:20260101T000000Z', 'DTSTART;VALUE=DATE:20260906'],
      ...['DTEND;VALUE=DATE:20260910', 'SUMMARY:Clover update\\, second part', 'CATEGORIES:Algorithm update'],
      // A line that is folded goes on after a line end and a blank (RFC 5545, 3.1).
      ...['DESCRIPTION:A long story that', '  goes on', 'URL:https://clover.example/notes', 'END:VEVENT'],
      ...[
        'BEGIN:VEVENT',
        'UID:2',
        'DTSTAMP:20260101T000000Z',
        'DTSTART:20261001T083000Z',
        'SUMMARY:Outage',
        'END:VEVENT',
      ],
    ),
  );
  expect(problems).toEqual([]);
  expect(events).toMatchObject([
    {
      ...{
        name: 'Clover update, second part',
        kind: 'algorithm-update',
        firstDay: '2026-09-06',
        lastDay: '2026-09-09',
      },
      ...{ note: 'A long story that goes on', link: 'https://clover.example/notes' },
    },
    { name: 'Outage', kind: 'other', firstDay: '2026-10-01', lastDay: '2026-10-01' },
  ]);
});

test('what repeats is noted once, and says so; what is broken is said', () => {
  const repeating = CALENDAR(
    ...[
      'BEGIN:VEVENT',
      'UID:1',
      'DTSTAMP:20260101T000000Z',
      'DTSTART;VALUE=DATE:20261224',
      'RRULE:FREQ=YEARLY',
    ],
    ...[
      'SUMMARY:Holidays',
      'END:VEVENT',
      'BEGIN:VEVENT',
      'UID:2',
      'DTSTAMP:20260101T000000Z',
      'DTSTART;VALUE=DATE:20261224',
      'END:VEVENT',
    ],
  );
  const { events, problems } = readEvents(repeating);
  expect(events).toHaveLength(1);
  expect(problems).toEqual(['Event 2: The event needs a name.', 'Holidays: it repeats, and is noted once.']);
  expect(readEvents('BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\n:::').problems[0]).toMatch(/broken/);
});

test('a CSV as the almanac saves it', () => {
  const csv =
    '\ufeffname,kind,first day,last day,pages,readings,link,note\r\nClover update,Algorithm update,2026-09-06,2026-09-09,/guides/,3,,\r\nOther,odd,2026-09-31,,,,,';
  expect(readEvents(csv)).toEqual({
    events: [
      {
        ...{ name: 'Clover update', kind: 'algorithm-update', firstDay: '2026-09-06', lastDay: '2026-09-09' },
        ...{ link: null, note: null, group: '/guides/', hidden: false },
      },
    ],
    problems: [expect.stringMatching(/^Line 3: A day is written YYYY-MM-DD/)],
  });
  expect(readEvents('just,words\n1,2').problems[0]).toMatch(/has the columns name, kind/);
});

test('a JSON list as the interface gives it', () => {
  const one = {
    id: 4,
    siteId: 1,
    name: 'A',
    kind: 'outage',
    firstDay: '2026-01-01',
    lastDay: '2026-01-02',
    link: null,
    note: null,
  };
  expect(readEvents(JSON.stringify([one, { ...one, kind: 'teapot' }]))).toMatchObject({
    events: [{ name: 'A', kind: 'outage' }],
    problems: ['Event 2: Choose one of the kinds.'],
  });
  expect(readEvents('{"a": 1}').problems[0]).toMatch(/no JSON list/);
});
