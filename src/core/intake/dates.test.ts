import fc from 'fast-check';
import { asDay, isoDay } from '../calendar/day';
import { DateOrderEvidence, readDate, readWeek } from './dates';

const orderOf = (...texts: string[]) => {
  const evidence = new DateOrderEvidence();
  texts.forEach((text) => evidence.add(text));
  return evidence.finding();
};

describe('dates', () => {
  test.each([
    [['2026-09-14'], 'year-first'],
    [['03/09/2026', '14/09/2026'], 'day-first'],
    [['09/03/2026', '09/14/2026'], 'month-first'],
    [['03/09/2026', '04/09/2026'], 'ambiguous'],
    [['14/09/2026', '09/14/2026'], 'ambiguous'],
    [['03.09.2026'], 'day-first'],
    [['yesterday', ''], 'none'],
  ] as const)('%p is %s', (texts, wanted) => {
    expect(orderOf(...texts)).toBe(wanted);
  });

  test.each([
    ['Nov 1, 2026', '2026-11-01'],
    ['November 1st, 2026', '2026-11-01'],
    ['1 Nov 2026', '2026-11-01'],
    ['1-Nov-26', '2026-11-01'],
    ['2026-11-01T09:30:00Z', '2026-11-01'],
    ['2026-11-01 9:30', '2026-11-01'],
    ['2026-11-01, 09:30', '2026-11-01'],
    ['2026-W45-3', '2026-11-04'],
    ['2026W451', '2026-11-02'],
  ])('%p leaves no doubt', (text, wanted) => {
    expect(isoDay(readDate(text, 'day-first') as never)).toBe(wanted);
    expect(orderOf(text)).toBe('year-first');
  });

  test('years of two digits are read in the order of the file', () => {
    expect(isoDay(readDate('11/1/26', 'month-first') as never)).toBe('2026-11-01');
    expect(isoDay(readDate('11/1/26', 'day-first') as never)).toBe('2026-01-11');
    expect(orderOf('11/1/26', '11/13/26')).toBe('month-first');
  });

  test('a whole week is no day, and what to do is said', () => {
    expect(readDate('2026-W45', 'day-first')).toMatch(/is a whole week, not a day\. Choose “Week”/);
    expect(readDate('Foo 1, 2026', 'day-first')).toMatch(/is not a date/);
    expect(readDate('2026-W60-1', 'day-first')).toMatch(/does not exist/);
  });

  test.each([
    ['2026-W45', '2026-11-08'],
    ['2026W01', '2026-01-04'],
    ['2020-W53', '2021-01-03'],
  ])('the week %p ends on %p', (text, sunday) => {
    expect(isoDay(readWeek(text)!)).toBe(sunday);
  });

  test.each(['2021-W53', '2026-W00', '2026-W45-3', '2026-11-08', 'W45'])('%p is no whole week', (text) => {
    expect(readWeek(text)).toBeNull();
  });

  test('one date with a day above 12 settles the whole column', () => {
    const days = fc.array(fc.integer({ min: 1, max: 12 }), { maxLength: 20 });
    fc.assert(
      fc.property(days, fc.integer({ min: 13, max: 28 }), fc.boolean(), (others, telling, dayFirst) => {
        const write = (d: number) => (dayFirst ? `${d}/6/2026` : `6/${d}/2026`);
        expect(orderOf(...others.map(write), write(telling))).toBe(dayFirst ? 'day-first' : 'month-first');
      }),
    );
  });

  test('every day is read back from each way of writing it', () => {
    fc.assert(
      fc.property(fc.integer({ min: 7305, max: 40_000 }).map(asDay), (day) => {
        const [y, m, d] = isoDay(day).split('-');
        expect(readDate(`${y}-${m}-${d}`, 'month-first')).toBe(day);
        expect(readDate(`${y}${m}${d}`, 'day-first')).toBe(day);
        expect(readDate(`${y}-${m}-${d}T00:00:00Z`, 'day-first')).toBe(day);
        expect(readDate(`${d}/${m}/${y}`, 'day-first')).toBe(day);
        expect(readDate(`${Number(d)}.${Number(m)}.${y}`, 'day-first')).toBe(day);
        expect(readDate(`${m}/${d}/${y}`, 'month-first')).toBe(day);
      }),
    );
  });

  test.each(['2026-02-30', '2026-13-01', '31/04/2026', '20261301'])('%s does not exist', (text) => {
    expect(readDate(text, 'day-first')).toMatch(/does not exist/);
  });

  test.each(['', 'Total', '14 Sep', '1/2/126', '2026-9'])('%p is no date', (text) => {
    expect(readDate(text, 'day-first')).toEqual(expect.any(String));
  });
});
