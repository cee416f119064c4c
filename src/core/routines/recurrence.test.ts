import { OFFERED_RULES, ruleInWords } from './recurrence';
import { newRoutineSchema } from './routine';

test.each([
  ['FREQ=WEEKLY;BYDAY=MO', 'every Monday'],
  ['FREQ=MONTHLY;BYDAY=1MO', 'every first Monday of the month'],
  ['FREQ=MONTHLY;BYDAY=-1FR', 'every last Friday of the month'],
  ['FREQ=WEEKLY;INTERVAL=2;BYDAY=MO', 'every second week on Monday'],
  ['FREQ=WEEKLY;BYDAY=MO,TH', 'every Monday and Thursday'],
  ['RRULE:freq=monthly;bymonthday=1', 'every month on day 1'],
  ['FREQ=MONTHLY;INTERVAL=3;BYDAY=1MO', 'every 3 months on the first Monday'],
  ['FREQ=YEARLY', 'every year'],
  ['FREQ=DAILY', 'every day'],
])('%s is %s', (rule, words) => expect(ruleInWords(rule)).toBe(words));

test.each([
  'FREQ=MONTHLY;BYSETPOS=-1;BYDAY=MO,TU',
  'FREQ=WEEKLY;BYDAY=1MO',
  'FREQ=HOURLY',
  'every Monday',
  '',
])('%p is left as it is', (rule) => expect(ruleInWords(rule)).toBeNull());

test('all rules that are offered have words, and are rules', () => {
  for (const rule of OFFERED_RULES) {
    expect([rule, ruleInWords(rule)]).toEqual([rule, expect.any(String)]);
    expect(newRoutineSchema.shape.rule.safeParse(rule).success).toBe(true);
  }
});
