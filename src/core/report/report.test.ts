import { HtmlValidate } from 'html-validate';
import { asDay } from '../calendar/day';
import { changedSince } from './changed';
import { reportHtml } from './html';
import { inMarkdown } from './escape';
import { reportMarkdown } from './markdown';
import { REPORT_PART_KEYS, REPORT_PARTS, type ReportContent, type ShownReport } from '../model/reportContent';
import { stripsSvg } from './stripsSvg';

const NASTY = '<script>alert("1")</script> & \'x\' | *y*';
const span = { firstDay: asDay(20_000), lastDay: asDay(20_027) };

const content = (effect: string, rows = 2): ReportContent => ({
  ...{ title: `Report ${NASTY}`, site: 'Quillow Bee Yard', address: 'https://www.quillow-bees.example' },
  ...{ span, about: 'the whole site', readOn: asDay(20_030), figuresTo: asDay(20_027) },
  parts: REPORT_PART_KEYS.map((key) => ({
    ...{ key, heading: REPORT_PARTS[key], sentences: [`First of ${key}.`, NASTY], strips: null },
    tables:
      key === 'changes'
        ? [
            {
              title: 'Changes',
              columns: [
                { name: 'change', figures: false },
                { name: 'net effect', figures: true },
              ],
              rows: Array.from({ length: rows }, (_, i) => [
                { text: i === 0 ? NASTY : `Change ${i}`, value: i },
                { text: effect, value: 1.1 },
              ]),
            },
          ]
        : [],
    ...(key === 'traffic'
      ? {
          strips: {
            ...{ title: `Days ${NASTY}`, shown: span, changes: [{ day: asDay(20_010), title: NASTY }] },
            strips: [{ metric: 'position' as const, values: [2, null, 4, ...Array<number>(25).fill(3)] }],
            events: [{ firstDay: asDay(20_005), lastDay: asDay(20_006), name: NASTY }],
          },
        }
      : {}),
  })),
});
const shown = (over: Partial<ShownReport> = {}): ShownReport => ({
  ...{
    content: content('+10%'),
    words: { traffic: { before: `Mine\n\n${NASTY}`, after: 'Later' } },
    ink: 'petrol',
  },
  ...{ logo: null, issue: { number: 2, day: asDay(20_031) }, changed: ['A: new.'] },
  ...over,
});

describe('a report as HTML', () => {
  const html = reportHtml(shown({ logo: 'data:image/png;base64,iVBORw0KGgo=' }));

  test('is valid, and nothing in it is fetched from anywhere', async () => {
    const validator = new HtmlValidate({
      extends: ['html-validate:recommended'],
      // Inline styles of our own drawing, a meta tag of the head: nothing that the standard forbids.
      rules: { 'no-inline-style': 'off', 'long-title': 'off', 'prefer-native-element': 'off' },
    });
    const { results } = await validator.validateString(html);
    expect(
      results.flatMap(({ messages }) => messages.map(({ message, line }) => `${line}: ${message}`)),
    ).toEqual([]);
    expect(html.match(/(?:src|href|url)\s*[=(]\s*["']?(?!data:|#)[^"')\s>]+/g)).toBeNull();
    expect(html.replaceAll('http://www.w3.org/2000/svg', '')).not.toMatch(/https?:\/\//);
  });

  test('escapes whatever people wrote', () => {
    expect(html).not.toContain('<script');
    expect(html).toContain('&lt;script&gt;');
    expect(html.split('<svg')).toHaveLength(2);
    expect(html).toContain('Since issue 1');
    expect(html).toContain('Mine');
  });
});

test('as Markdown nothing of a text is read as its marks', () => {
  expect(inMarkdown('a*b|c_<d>')).toBe('a\\*b\\|c\\_\\<d\\>');
  const text = reportMarkdown(shown());
  expect(text).toContain('| change | net effect |\n| --- | ---: |');
  expect(text).not.toContain('<script>');
  for (const key of REPORT_PART_KEYS)
    expect(text).toContain(`## ${REPORT_PARTS[key].replaceAll('|', '\\|')}`);
  expect(text).toContain('> Mine');
});

describe('strips as a vector picture', () => {
  const strips = content('').parts.find(({ key }) => key === 'traffic')!.strips!;

  test('have a gap where a day has no figures, and up is better for position', () => {
    const path = /<path d="([^"]+)"/.exec(stripsSvg(strips))![1]!;
    expect(path.match(/M/g)).toHaveLength(2);
    const ys = [...path.matchAll(/[ML][\d.]+ ([\d.]+)/g)].map(([, y]) => Number(y));
    expect(ys).toHaveLength(27);
    // Position 2 stands above position 4.
    expect(ys[0]!).toBeLessThan(ys[1]!);
  });

  test('are proportional: every value lies where its share of the range says', () => {
    const values = [10, 20, 30, 15];
    const svg = stripsSvg({
      ...{ title: 'x', shown: { firstDay: asDay(1), lastDay: asDay(4) }, changes: [], events: [] },
      strips: [{ metric: 'clicks', values }],
    });
    const ys = [.../<path d="([^"]+)"/.exec(svg)![1]!.matchAll(/[ML][\d.]+ ([\d.]+)/g)].map(([, y]) =>
      Number(y),
    );
    const scale = (ys[0]! - ys[2]!) / 20;
    values.forEach((value, i) => expect((ys[0]! - ys[i]!) / scale).toBeCloseTo(value - 10, 0));
  });
});

test('a new issue says what came, went, and says something else', () => {
  expect(changedSince(content('+10%'), content('+10%'))).toEqual([]);
  expect(changedSince(content('+10%'), content('+12%', 3))).toEqual([
    `${NASTY}: net effect was +10%, is +12%.`,
    'Change 1: net effect was +10%, is +12%.',
    'Change 2: new.',
  ]);
  expect(changedSince(content('+10%', 3), content('+10%', 2))).toEqual([
    '1 line of “Changes” no longer there: Change 2.',
  ]);
});
