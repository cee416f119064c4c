import fc from 'fast-check';
import { asDay } from '../calendar/day';
import { headKey, passedOver, recogniseColumns, type ColumnMapping } from './columns';
import { fingerprint } from './fingerprint';
import { encodingOf, findDelimiter, notCsvReason, wrappingOf } from './format';
import { findGrain } from './grain';
import { readAmount, readCount, readNumber, readPosition } from './numbers';
import { DEVICES, isTotalRow, RowReader, UnsettledDates, type RowContext } from './rowReader';

const mappingProblems = (mapping: ColumnMapping, columns: number) => findGrain(mapping, columns).problems;

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

  test('the heads of lists that were cut to their first rows are known', () => {
    const found = recogniseColumns(['Date', 'Top pages', 'Top queries', 'Clicks', 'Impressions']);
    expect(found).toEqual({ date: 0, page: 1, query: 2, clicks: 3, impressions: 4 });
    expect(recogniseColumns(['Topic', 'Top'])).toEqual({});
  });

  test('a first row with a whole week makes its column one of weeks', () => {
    const head = ['Date', 'Page', 'Clicks', 'Impressions'];
    const weeks = recogniseColumns(head, ['2026-W45', '/a/', '1', '10']);
    expect(weeks).toEqual({ week: 0, page: 1, clicks: 2, impressions: 3 });
    expect(findGrain(weeks, 4).grain).toBe('page_period');
    expect(recogniseColumns(head, ['2026-11-08', '/a/', '1', '10'])).toMatchObject({ date: 0 });
    expect(recogniseColumns(['Week', 'Date', 'Clicks', 'Impressions'])).toMatchObject({
      date: 1,
      week: null,
    });
    expect(mappingProblems({ week: 0, clicks: 1, impressions: 2 }, 3)).toEqual([
      expect.stringContaining('must be daily'),
    ]);
  });

  test('a column that sounds like a page is not passed over, so that rows would count as the whole site', () => {
    expect(passedOver(['Date', 'Page or screen', 'Clicks', 'Impressions'], 'site_day')).toEqual([
      'Page or screen',
    ]);
    expect(passedOver(['Date', 'Cost', 'Clicks', 'Impressions'], 'site_day')).toEqual([]);
    expect(passedOver(['Date', 'Page', 'Search phrase used', 'Clicks', 'Impressions'], 'page_day')).toEqual(
      [],
    );
  });

  test('what is missing is named, each in a sentence', () => {
    const problems = mappingProblems(recogniseColumns(['URL', 'Clicks', 'Something']), 3);
    expect(problems).toEqual([expect.stringContaining('no impressions column')]);
    expect(mappingProblems({}, 3)).toHaveLength(4);
  });

  test('one column cannot hold two things, and must be there', () => {
    const problems = mappingProblems({ date: 0, page: 1, clicks: 2, impressions: 2, position: 9 }, 4);
    expect(problems.join(' ')).toMatch(/both Clicks and Impressions/);
    expect(problems.join(' ')).toMatch(/Position names a column that is not there/);
  });
});

describe('what rows are about', () => {
  test.each<[string[], string]>([
    [['date', 'clicks', 'impressions', 'device'], 'site_day'],
    [['date', 'page', 'clicks', 'impressions'], 'page_day'],
    [['date', 'page', 'query', 'clicks', 'impressions', 'position'], 'page_query_day'],
    [['date', 'query', 'clicks', 'impressions'], 'query_day'],
    [['date', 'keyword', 'position'], 'rank_check'],
    [['date', 'keyword', 'rank', 'url'], 'rank_check'],
    [['date', 'landing page', 'sessions', 'bounces', 'revenue'], 'analytics_day'],
    [['page', 'clicks', 'impressions', 'ctr', 'position'], 'page_period'],
    [['query', 'page', 'clicks', 'impressions'], 'page_query_period'],
    [['query', 'clicks', 'impressions'], 'query_period'],
    [['keyword', 'search volume'], 'query_attribute'],
    [['url', 'page group', 'worth per conversion'], 'page_attribute'],
  ])('%p: %s', (head, grain) => {
    expect(findGrain(recogniseColumns(head), head.length).grain).toBe(grain);
  });

  test.each([
    [['clicks', 'impressions'], /neither page nor query/],
    [['page', 'sessions'], /no date column/],
    [['date', 'sessions'], /no page column/],
  ])('%p is not enough', (head, why) => {
    expect(mappingProblems(recogniseColumns(head), head.length).join(' ')).toMatch(why);
  });

  test('a head is known again whatever its letters and spaces', () => {
    expect(headKey([' Date', 'PAGE '])).toBe(headKey(['date', 'page']));
    expect(headKey(['a', 'bc'])).not.toBe(headKey(['ab', 'c']));
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

describe('numbers as they are written', () => {
  test.each([
    ['1234.5', 1234.5],
    ['1,234.5', 1234.5],
    ['1.234,5', 1234.5],
    ['1 234,50', 1234.5],
    ["1'234.50", 1234.5],
    ['12,5', 12.5],
    ['-3,5', -3.5],
    ['3.1%', 3.1],
    ['3,1 %', 3.1],
    ['€ 12.50', 12.5],
    ['12,50 €', 12.5],
    ['EUR 1.000', 1000],
    ['1,234', 1234],
    ['1.234.567', 1234567],
    ['0,125', 0.125],
    ['.5', 0.5],
  ])('%p is %p', (text, wanted) => {
    expect(readNumber(text, true)).toBe(wanted);
  });

  test.each(['', 'n/a', '1.2.3', '1,23,4', '12-3', '1e5', '1.234,567,8', '--1'])(
    '%p is no number',
    (text) => {
      expect(readNumber(text, true)).toBeNull();
    },
  );

  test('a position has no thousands', () => {
    expect([readPosition('1.234'), readPosition('12,345')]).toEqual([1.234, 12.345]);
  });

  test('any number is read back from any way of writing it', () => {
    const separators = fc.constantFrom(['', '.'], ['', ','], [',', '.'], ['.', ','], [' ', ','], ["'", '.']);
    fc.assert(
      fc.property(fc.nat(10_000_000), fc.nat(99), separators, (whole, cents, [thousands, decimal]) => {
        const grouped = String(whole).replace(/\B(?=(\d{3})+(?!\d))/g, thousands!);
        const text = `${grouped}${decimal}${String(cents).padStart(2, '0')}`;
        expect(readNumber(text, true)).toBeCloseTo(whole + cents / 100, 6);
        expect(readCount(grouped, 'Clicks')).toBe(whole);
      }),
    );
  });

  test('an amount may be absent, and must otherwise be a number', () => {
    expect([readAmount('', 'Revenue'), readAmount('-', 'Revenue'), readAmount('1.50', 'Revenue')]).toEqual([
      null,
      null,
      1.5,
    ]);
    expect(readAmount('much', 'Revenue')).toMatch(/Revenue is not a number/);
  });
});

describe('rows', () => {
  const context: RowContext = {
    grain: 'page_query_day',
    mapping: { date: 0, page: 1, query: 2, device: 3, clicks: 4, impressions: 5, position: 6 },
    columns: 7,
    dateOrder: 'year-first',
    counted: {},
    periodEnd: null,
    newestDay: asDay(21_000),
    address: (text) =>
      text.startsWith('/')
        ? { written: `https://www.quillow-bees.example${text}` }
        : { problem: 'another site' },
  };
  const read = (cells: string[], over: Partial<RowContext> = {}) => {
    const reader = new RowReader({ ...context, columns: cells.length, ...over });
    const problem = reader.read(cells);
    return { problem, reader };
  };
  const row = (over: Partial<Record<number, string>> = {}) => {
    const cells = ['2026-09-14', '/guides/', 'Bee  Smoker', 'MOBILE', '3', '40', '7,5'];
    for (const [i, text] of Object.entries(over)) cells[Number(i)] = text ?? '';
    return read(cells);
  };

  test.each(['Total', '(all pages)', 'Grand total', 'TOTALS:', 'All pages', 'Gesamt'])(
    '“%s” in place of a page is a total of the others, and skipped',
    (text) => expect(isTotalRow(text)).toBe(true),
  );
  test.each(['/total/', 'https://www.quillow-bees.example/total', '/all-pages/', 'totally'])(
    '“%s” is a page',
    (text) => expect(isTotalRow(text)).toBe(false),
  );

  test('a good row', () => {
    const { problem, reader } = row();
    expect(problem).toBeNull();
    expect(reader).toMatchObject({
      day: 20_710,
      address: { text: 'https://www.quillow-bees.example/guides/' },
      query: { text: 'bee smoker' },
      device: DEVICES.mobile,
      country: { text: '' },
      part: 0,
    });
    expect([...reader.values]).toEqual([3, 40, 300]);
  });

  test.each([
    [{ 0: '2026-02-30' }, /does not exist/],
    [{ 0: '2062-09-14' }, /in the future/],
    [{ 0: '1961-09-14' }, /before 1990/],
    [{ 1: 'https://www.other-yard.example/' }, /another site/],
    [{ 2: ' ' }, /query is empty/],
    [{ 2: 'x'.repeat(501) }, /longer than 500/],
    [{ 4: '-1' }, /Clicks cannot be negative/],
    [{ 5: '-40' }, /Impressions cannot be negative/],
    [{ 4: '41' }, /More clicks \(41\) than impressions \(40\)/],
    [{ 6: '0.4' }, /below 1/],
  ])('%p is refused', (over, why) => {
    expect(row(over).problem).toMatch(why);
  });

  test('a position of 0 without impressions is only a way of writing that there is none', () => {
    expect([...row({ 4: '0', 5: '0', 6: '0' }).reader.values]).toEqual([0, 0, 0]);
  });

  test('an absent position is absent, not 0', () => {
    expect(row({ 6: '' }).reader.values[2]).toBeNaN();
  });

  test('a date that can be read in two ways is not guessed', () => {
    const cells = ['03/09/2026', '/g/', 'a', '', '1', '2', '3'];
    expect(() => read(cells, { dateOrder: null })).toThrow(UnsettledDates);
    expect(read(cells, { dateOrder: 'day-first' }).reader.day).toBe(20_699);
    expect(read(['2026-09-03', ...cells.slice(1)], { dateOrder: null }).reader.day).toBe(20_699);
  });

  test('positions alone, with or without a page', () => {
    const over = { grain: 'rank_check', mapping: { date: 0, query: 1, position: 2, page: 3 } } as const;
    const at = (position: string, page: string) => read(['2026-09-14', 'Hive', position, page], over);
    expect([...at('7.5', '').reader.values]).toEqual([7.5]);
    expect(at('7.5', '').reader.address.text).toBe('');
    expect(at('7.5', '/g/').reader.address.text).toBe('https://www.quillow-bees.example/g/');
    // Looked for and not found among the results: a finding, and no position.
    expect(at('', '').reader.values[0]).toBeNaN();
    expect(at('0', '').reader.values[0]).toBeNaN();
    expect(at('0.3', '').problem).toMatch(/below 1/);
  });

  test('what an analytics program counts', () => {
    const over = {
      grain: 'analytics_day',
      mapping: { date: 0, page: 1, sessions: 2, engagedSessions: 3, conversions: 4, revenue: 5 },
    } as const;
    const of = (...cells: string[]) => read(['2026-09-14', '/g/', ...cells], over);
    expect([...of('100', '61', '2,5', '1.234,50').reader.values]).toEqual([100, 61, NaN, 2.5, 1234.5]);
    expect(of('100', '101', '', '').problem).toMatch(/More engaged sessions \(101\) than sessions \(100\)/);
    expect(of('100', '', '', 'much').problem).toMatch(/Revenue is not a number/);
  });

  test('what files state of pages and queries', () => {
    const pages = { grain: 'page_attribute', mapping: { page: 0, group: 1, worth: 2 } } as const;
    expect(read(['/g/', 'Guides', '12,50'], pages).reader.attributes).toEqual([
      { name: 'group', value: 'Guides' },
      { name: 'worth', value: '12.5' },
    ]);
    expect(read(['/g/', '', ''], pages).problem).toMatch(/states nothing/);
    const queries = { grain: 'query_attribute', mapping: { query: 0, searches: 1 } } as const;
    expect(read(['Hive', '1,900'], queries).reader.attributes).toEqual([{ name: 'searches', value: '1900' }]);
  });

  test('rows that differ only in an unread column are parts of one', () => {
    const over = { mapping: { ...context.mapping, position: null } };
    const part = (text: string) => read(['2026-09-14', '/g/', 'a', '', '1', '2', text], over).reader.part;
    expect(part('plain')).not.toBe(part('rich'));
    expect(part('plain')).toBe(part('plain'));
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

  test.each<[string, RegExp | null]>([
    ['', /empty/],
    [' \n', /empty/],
    ['date,page', null],
    ['{"a": 1}', /JSON/],
    ['<!doctype html>', /HTML/],
    ['d\0e', /NUL/],
  ])('the beginning %p', (start, why) => {
    if (why) expect(notCsvReason(start, start)).toMatch(why);
    else expect(notCsvReason(start, start)).toBeNull();
  });

  test('what a file is wrapped in shows in its first bytes', () => {
    expect(wrappingOf(Uint8Array.of(0x1f, 0x8b, 8))).toBe('gzip');
    expect(wrappingOf(Uint8Array.of(0x50, 0x4b, 3, 4))).toBe('zip');
    expect(wrappingOf(Uint8Array.of(0x64))).toBeNull();
  });

  test.each([
    [Buffer.from('\ufeffdate,page', 'utf8'), 'utf-8', 3],
    [Buffer.from('\ufeffdate,page', 'utf16le'), 'utf-16le', 2],
    [Buffer.from('\ufeffdate,page', 'utf16le').swap16(), 'utf-16be', 2],
    [Buffer.from('date,page,clicks', 'utf16le'), 'utf-16le', 0],
    [Buffer.from('date,page,clicks', 'utf16le').swap16(), 'utf-16be', 0],
    [Buffer.from('date,página'), 'utf-8', 0],
  ])('the encoding of %p', (bytes, encoding, mark) => {
    expect(encodingOf(bytes)).toEqual({ encoding, mark });
  });
});

test('fingerprints tell where cells end', () => {
  expect(fingerprint(['ab', 'c'])).not.toBe(fingerprint(['a', 'bc']));
  expect(fingerprint(['ab', 'c'])).toBe(fingerprint(['ab', 'c']));
});
