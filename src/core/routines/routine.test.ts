import { parseIsoDay, type Day } from '../calendar/day';
import {
  dueDays,
  dueNext,
  dueNow,
  newRoutineSchema,
  READY_ROUTINES,
  routineMarkdown,
  type Routine,
} from './routine';

const day = (text: string) => parseIsoDay(text) as Day;
const dates = (days: readonly Day[]) =>
  days.map((one) => new Date(one * 86_400_000).toISOString().slice(0, 10));
const routine = (rule: string, firstDay: string): Routine => ({
  ...{ id: 1, siteId: 1, name: 'Look', rule, firstDay: day(firstDay) },
  steps: [
    { text: 'One', link: null },
    { text: 'Two [x]', link: '/openings?kind=unsaid' },
  ],
});

// RFC 5545, 3.8.5.3: the examples of its recurrence rules, their days as it gives them.
test.each([
  ['FREQ=MONTHLY;COUNT=10;BYDAY=1FR', '1997-09-05', ['1997-09-05', '1997-10-03', '1997-11-07', '1997-12-05']],
  ['FREQ=MONTHLY;COUNT=6;BYDAY=-2MO', '1997-09-22', ['1997-09-22', '1997-10-20', '1997-11-17', '1997-12-22']],
  ['FREQ=YEARLY;BYDAY=TH;BYMONTH=3', '1997-03-13', ['1997-03-13', '1997-03-20', '1997-03-27']],
  [
    'FREQ=WEEKLY;INTERVAL=2;WKST=SU',
    '1997-09-02',
    [
      '1997-09-02',
      '1997-09-16',
      '1997-09-30',
      '1997-10-14',
      '1997-10-28',
      '1997-11-11',
      '1997-11-25',
      '1997-12-09',
      '1997-12-23',
    ],
  ],
  ['FREQ=MONTHLY;BYMONTHDAY=-3', '1997-09-28', ['1997-09-28', '1997-10-29', '1997-11-28', '1997-12-29']],
])('%s is due as RFC 5545 says', (rule, first, expected) => {
  expect(dates(dueDays(routine(rule, first), day('1997-01-01'), day('1997-12-31')))).toEqual(expected);
});

test('is due until all of its steps are ticked off, and then comes again', () => {
  const monthly = routine('FREQ=MONTHLY;BYDAY=1MO', '2026-01-01');
  const november = day('2026-11-02');
  expect(dueNow(monthly, [], day('2026-11-01'))).toBe(day('2026-10-05'));
  expect(dueNow(monthly, [], day('2026-11-20'))).toBe(november);
  const done = (step: number) => ({ dueOn: november, step, person: null });
  expect(dueNow(monthly, [done(0)], day('2026-11-20'))).toBe(november);
  expect(dueNow(monthly, [done(0), done(1)], day('2026-11-20'))).toBeNull();
  expect(dueNow(monthly, [done(0), done(1)], day('2026-12-07'))).toBe(day('2026-12-07'));
  expect(dueNext(monthly, day('2026-11-02'))).toBe(day('2026-12-07'));
  expect(dueNext(routine('FREQ=DAILY;COUNT=2', '2026-01-01'), day('2026-11-02'))).toBeNull();
});

test('rules that are none, or come by the hour, and links elsewhere are refused', () => {
  const given = { name: 'N', steps: [{ text: 'S' }], rule: 'FREQ=WEEKLY', firstDay: '2026-01-01' };
  expect(newRoutineSchema.safeParse(given).success).toBe(true);
  for (const rule of ['', 'every Monday', 'FREQ=HOURLY', 'FREQ=FOO'])
    expect(newRoutineSchema.safeParse({ ...given, rule }).success).toBe(false);
  for (const link of ['https://elsewhere.example/', '//elsewhere.example/', 'javascript:alert(1)', '/\\x'])
    expect(newRoutineSchema.safeParse({ ...given, steps: [{ text: 'S', link }] }).success).toBe(false);
  for (const ready of READY_ROUTINES)
    expect(newRoutineSchema.safeParse({ ...ready, firstDay: '2026-01-01' }).success).toBe(true);
});

test('nothing of its name or its steps is a mark of Markdown', () => {
  const hostile = {
    ...{ name: 'A [link](https://elsewhere.example) <b>\n# Two', rule: 'FREQ=DAILY' },
    steps: [{ text: '`*x*`', link: '/find?q=(a)[b](https://elsewhere.example)' }],
  };
  const [name, , , , step] = routineMarkdown(hostile, 'http://localhost/sites/1').split('\n');
  expect(name).toBe('# A \\[link\\](https://elsewhere.example) \\<b\\> \\# Two');
  expect(step).toBe(
    '1. [\\`\\*x\\*\\`](http://localhost/sites/1/find?q=%28a%29%5Bb%5D%28https://elsewhere.example%29)',
  );
});

test('is handed on as Markdown', () => {
  expect(routineMarkdown(routine('FREQ=DAILY', '2026-01-01'), 'http://localhost/sites/1')).toBe(
    '# Look\n\nRepeats every day\n\n1. One\n2. [Two \\[x\\]](http://localhost/sites/1/openings?kind=unsaid)\n',
  );
});
