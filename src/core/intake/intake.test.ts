import fc from 'fast-check';
import { asDay, isoDay } from '../calendar/day';
import { mappingProblems, recogniseColumns } from './columns';
import { DateOrderEvidence, readDate } from './dates';
import { fingerprint } from './fingerprint';
import { findDelimiter, notCsvReason } from './format';
import { readCount, readPosition } from './numbers';
import { DEVICES, readRow, type RowContext } from './row';

const orderOf = (...texts: string[]) => {
  const evidence = new DateOrderEvidence();
  texts.forEach((text) => evidence.add(text));
  return evidence.finding();
};

describe('columns', () => {
  test.each([
    [
      ['Date', 'Page', 'Clicks', 'Impressions', 'CTR', 'Position'],
      { date: 0, page: 1, clicks: 2, impressions: 3, ctr: 4, position: 5 },
    ],
    [
      ['Avg. position', 'Impr.', 'CLICKS', 'Search term', 'URL', 'Day'],
      { position: 0, impressions: 1, clicks: 2, query: 3, page: 4, date: 5 },
    ],
    [
      ['Datum', 'Seite', 'Suchanfrage', 'Klicks', 'Impressionen', 'Gerät'],
      { date: 0, page: 1, query: 2, clicks: 3, impressions: 4, device: 5 },
    ],
    [
      ['day', 'landing_page', 'keyword', 'clicks', 'impressions', 'CTR (%)'],
      { date: 0, page: 1, query: 2, clicks: 3, impressions: 4, ctr: 5 },
    ],
  ])('%p', (head, wanted) => {
    expect(recogniseColumns(head)).toEqual(wanted);
    expect(mappingProblems(recogniseColumns(head), head.length)).toEqual([]);
  });

  test('what is missing is named, each in a sentence', () => {
    const problems = mappingProblems(recogniseColumns(['URL', 'Clicks', 'Something']), 3);
    expect(problems).toEqual([
      expect.stringContaining('no date column'),
      expect.stringContaining('no impressions column'),
    ]);
  });

  test('one column cannot hold two things, and must be there', () => {
    const problems = mappingProblems({ date: 0, page: 1, clicks: 2, impressions: 2, position: 9 }, 4);
    expect(problems.join(' ')).toMatch(/both Clicks and Impressions/);
    expect(problems.join(' ')).toMatch(/Position names a column that is not there/);
  });
});

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
      fc.property(fc.integer({ min: 0, max: 40_000 }).map(asDay), (day) => {
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

  test.each(['', 'Total', '14 Sep', '1/2/26', '2026-9'])('%p is no date', (text) => {
    expect(readDate(text, 'day-first')).toEqual(expect.any(String));
  });
});

describe('numbers', () => {
  test.each([
    ['12', 12],
    [' 0 ', 0],
    ['1,234', 1234],
    ['1.234.567', 1234567],
    ["1'234", 1234],
    ['1\u202f234', 1234],
    ['12.0', 12],
  ])('the count %p is %p', (text, wanted) => {
    expect(readCount(text, 'Clicks')).toBe(wanted);
  });

  test.each([
    ['-5', /cannot be negative/],
    ['\u22125', /cannot be negative/],
    ['', /empty/],
    ['1.5', /not a whole number/],
    ['1,23', /not a whole number/],
    ['1,234.567', /not a whole number/],
    ['many', /not a whole number/],
    ['99999999999999999', /too large/],
  ])('the count %p is refused', (text, why) => {
    expect(readCount(text, 'Clicks')).toMatch(why);
  });

  test('a position may have a decimal point or comma, or be absent', () => {
    expect([readPosition('7.9'), readPosition('7,9'), readPosition(''), readPosition('-')]).toEqual([
      7.9,
      7.9,
      null,
      null,
    ]);
    expect(readPosition('first')).toMatch(/not a number/);
  });
});

describe('rows', () => {
  const context: RowContext = {
    mapping: { date: 0, page: 1, query: 2, device: 3, clicks: 4, impressions: 5, position: 6 },
    dateOrder: 'year-first',
    newestDay: asDay(21_000),
    address: (text) =>
      text.startsWith('/') ? { key: `https://www.quillow-bees.example${text}` } : { problem: 'another site' },
  };
  const row = (over: Partial<Record<number, string>> = {}) => {
    const cells = ['2026-09-14', '/guides/', 'Bee  Smoker', 'MOBILE', '3', '40', '7,5'];
    for (const [i, text] of Object.entries(over)) cells[Number(i)] = text ?? '';
    return readRow(cells, context);
  };

  test('a good row', () => {
    expect(row()).toEqual({
      day: 20_710,
      address: 'https://www.quillow-bees.example/guides/',
      query: 'bee smoker',
      device: DEVICES.mobile,
      country: '',
      clicks: 3,
      impressions: 40,
      positionSum: 300,
    });
  });

  test.each([
    [{ 0: '2026-02-30' }, /does not exist/],
    [{ 0: '2062-09-14' }, /in the future/],
    [{ 1: 'https://www.other-yard.example/' }, /another site/],
    [{ 2: ' ' }, /query is empty/],
    [{ 4: '-1' }, /Clicks cannot be negative/],
    [{ 5: '-40' }, /Impressions cannot be negative/],
    [{ 4: '41' }, /More clicks \(41\) than impressions \(40\)/],
    [{ 6: '0.4' }, /below 1/],
  ])('%p is refused', (over, why) => {
    expect(row(over)).toMatch(why);
  });

  test('a position of 0 without impressions is only a way of writing that there is none', () => {
    expect(row({ 4: '0', 5: '0', 6: '0' })).toMatchObject({ impressions: 0, positionSum: 0 });
  });

  test('an absent position is absent, not 0', () => {
    expect(row({ 6: '' })).toMatchObject({ positionSum: null });
  });
});

describe('format', () => {
  test.each([
    ['date,page,clicks', ','],
    ['date;page;clicks', ';'],
    ['date\tpage\tclicks', '\t'],
    ['"a;b;c;d",page,clicks', ','],
    ['"say ""a;b;c""";x;y', ';'],
    ['just words', null],
  ])('the delimiter of %p', (line, wanted) => {
    expect(findDelimiter(line)).toBe(wanted);
  });

  test.each<[number[] | string, RegExp | null]>([
    ['', /empty/],
    ['date,page', null],
    ['\ufeffdate,page', null],
    ['{"a": 1}', /JSON/],
    ['<!doctype html>', /HTML/],
    [[0x50, 0x4b, 3, 4], /spreadsheet/],
    [[0x1f, 0x8b], /gzip/],
    [[0xff, 0xfe, 0x64, 0], /UTF-16/],
    [[0x64, 0, 0x65], /not a text file/],
    [[0x64, 0xe4, 0x2c], /not in UTF-8/],
  ])('the beginning %p', (start, why) => {
    const reason = notCsvReason(
      typeof start === 'string' ? new TextEncoder().encode(start) : Uint8Array.from(start),
    );
    if (why) expect(reason).toMatch(why);
    else expect(reason).toBeNull();
  });

  test('a character cut in two by the end of the piece is no fault', () => {
    const bytes = new TextEncoder().encode('date,página');
    expect(notCsvReason(bytes.subarray(0, 7))).toBeNull();
  });
});

test('fingerprints tell where cells end', () => {
  expect(fingerprint(['ab', 'c'])).not.toBe(fingerprint(['a', 'bc']));
  expect(fingerprint(['ab', 'c'])).toBe(fingerprint(['ab', 'c']));
});
