import { randomLcg, randomPoisson } from 'd3-random';
import readXlsx from 'read-excel-file/node';
import { day, TempStore } from '../../../tests/support/tempDb';
import { aRound } from '../../../tests/support/round';
import { addDays, isoDay } from '../../core/calendar/day';
import { newChangeSchema } from '../../core/model/change';
import { newReportSchema } from '../../core/model/report';
import type { Site } from '../../core/model/site';
import type { ReportContent, ReportPartKey } from '../../core/model/reportContent';
import { addChange, recordDecision } from '../../store/ledger/changes';
import {
  addReport,
  findIssue,
  findReport,
  issueReport,
  issuesOf,
  saveReport,
} from '../../store/reports/reports';
import { plainSentence } from '../../core/reading/readingSentence';
import { ROUND_MEASURES } from '../../core/measures/registry';
import { turnSentence } from '../../core/rounds/roundSentence';
import { findRound } from '../../store/rounds/rounds';
import { readRound } from '../rounds/read';
import { Engines } from '../site/engines';
import { QueryPages } from '../figures/queryPages';
import { readChange } from '../reading/readChange';
import { recordMade } from '../rounds/recordWork';
import { Books } from '../scorebook/books';
import { SiteContext } from '../site/siteContext';
import { buildReport } from './build';
import { checkLogo } from './logo';
import { readingReport } from './reading';
import { roundReport } from './round';
import { shownReport } from './shown';
import { cellOf, reportWorkbook } from './workbook';

const FIRST = day('2026-02-01');
const DAYS = 280;
const MADE = day('2026-07-01');
const PATHS = Array.from({ length: 14 }, (_, i) => `/guides/${String.fromCharCode(97 + i)}/`);

let store: TempStore;
let site: Site;
let changeId: number;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
  const poisson = randomPoisson.source(randomLcg(0.4));
  const lines = ['date,page,clicks,impressions,position'];
  for (const path of PATHS)
    for (let i = 0; i < DAYS; i++)
      lines.push(`${isoDay(addDays(FIRST, i))},${path},${poisson(5)()},${100 + poisson(20)()},5`);
  await store.import(site, lines.join('\n'));
  const change = {
    title: 'Say it first',
    kind: 'title-rewrite',
    day: isoDay(MADE),
    pages: [PATHS[13]!],
    person: 'IK',
  };
  changeId = (await addChange(store.db, site, newChangeSchema.parse(change))).id;
  await recordDecision(store.db, changeId, { decision: 'keep', reason: 'why not', day: '2026-09-01' });
  const plan = { title: 'To come', kind: 'headings', day: '2027-01-04', pages: [PATHS[12]!], planned: true };
  await addChange(store.db, site, newChangeSchema.parse(plan));
});
afterEach(() => store.close());

const context = () => new SiteContext(store.db, site);
const tools = () => {
  const engines = new Engines(store.db);
  return { engines, queryPages: new QueryPages(engines), books: new Books(engines) };
};
const make = (over: object = {}) =>
  addReport(
    store.db,
    site.id,
    newReportSchema.parse({ title: 'Report', from: '2026-06-01', to: '2026-09-30', ...over }),
  );
const built = (id: number): ReportContent => buildReport(context(), tools(), findReport(store.db, id)!)!;
const part = (content: ReportContent, key: ReportPartKey) => content.parts.find((one) => one.key === key)!;

test('adds up the days it is of, and holds them against the days before', async () => {
  const content = built(await make({ from: '2026-07-01' }));
  const [totals] = part(content, 'traffic').tables;
  const span = { firstDay: day('2026-07-01'), lastDay: day('2026-09-30') };
  const sum = tools()
    .engines.figures(site)!
    .series.reduce((all, page) => {
      let own = 0;
      for (let at = span.firstDay; at <= span.lastDay; at++) own += page.clicks[at - page.firstDay] ?? 0;
      return all + own;
    }, 0);
  expect(totals!.rows[0]![1]!.value).toBe(sum);
  expect(part(content, 'traffic').sentences[0]).toContain('against the days before, the season not left out');
  expect(part(content, 'traffic').strips!.strips.map(({ values }) => values.length)).toEqual([
    92, 92, 92, 92,
  ]);
});

test('says of each change what its reading says, what was decided, and what is planned', async () => {
  const content = built(await make());
  const [changes] = part(content, 'changes').tables;
  const { change, net, judged, verdict } = readChange(
    context(),
    tools().engines,
    context().changes.find(({ id }) => id === changeId)!,
  );
  const row = changes!.rows[0]!;
  expect(row[0]).toEqual({ text: change.title, value: changeId });
  expect(row.map(({ value }) => value)).toContain(verdict);
  expect(row.at(-2)!.value).toBe((net![judged] as { ratio: number }).ratio);
  expect(part(content, 'learned').tables[0]!.rows[0]!.map(({ text }) => text)).toEqual([
    'Say it first',
    'Keep',
    'why not',
    '1 Sep 2026',
  ]);
  expect(part(content, 'next').tables[0]!.rows[0]![0]!.text).toBe('To come');
});

test('leaves out what is not for a reader from outside', async () => {
  const text = JSON.stringify(built(await make({ leaveOut: ['people', 'pages', 'money'] })));
  for (const word of ['IK', '/guides/', 'Say it first', 'To come']) expect(text).not.toContain(word);
});

test('is about a part, a round or chosen changes only', async () => {
  const roundId = await aRound(store.db, site, PATHS.slice(0, 8), { draw: 'halves', seed: 3 });
  await recordMade(store.db, site, roundId, { half: 'first', day: isoDay(MADE), pageIds: null });
  const ofRound = built(await make({ scope: { kind: 'round', roundId }, parts: ['changes', 'traffic'] }));
  expect(ofRound.about).toBe('the round “Round”');
  expect(ofRound.parts.map(({ key }) => key)).toEqual(['changes', 'traffic']);
  expect(part(ofRound, 'changes').tables.map(({ title }) => title.split(',')[0])).toEqual(['Round']);
  const chosen = built(await make({ scope: { kind: 'changes', changeIds: [changeId] } }));
  expect(part(chosen, 'changes').tables[0]!.rows).toHaveLength(1);
  const group = built(await make({ scope: { kind: 'group', group: '/guides/' } }));
  expect(group.about).toBe('the part /guides/');
  const none = built(await make({ scope: { kind: 'group', group: '/nowhere/' } }));
  expect(part(none, 'changes').sentences).toEqual(['Nothing was changed in these days.']);
});

test('stays as it was sent, and the next says what changed', async () => {
  const id = await make({ words: { traffic: { before: 'Mine', after: '' } } });
  const send = () => {
    const report = findReport(store.db, id)!;
    const content = built(id);
    return issueReport(store.db, id, (number, on) => ({
      ...shownReport(store.db, report, content),
      issue: { number, day: on },
    }));
  };
  expect(await send()).toBe(1);
  const sent = JSON.stringify(findIssue(store.db, id, 1));
  const more = { title: 'One more', kind: 'other', day: '2026-08-01', pages: [PATHS[11]!] };
  await addChange(store.db, site, newChangeSchema.parse(more));
  await saveReport(store.db, id, () =>
    newReportSchema.parse({ title: 'Renamed', from: '2026-06-01', to: '2026-09-30' }),
  );
  expect(await send()).toBe(2);
  expect(JSON.stringify(findIssue(store.db, id, 1))).toBe(sent);
  expect(findIssue(store.db, id, 2)!.changed).toContain('One more: new.');
  expect(findIssue(store.db, id, 3)).toBeNull();
  expect(issuesOf(store.db, id).map(({ number }) => number)).toEqual([2, 1]);
});

test('as a spreadsheet has a sheet for each table, with figures as numbers', async () => {
  const id = await make();
  const content = built(id);
  const shown = shownReport(store.db, findReport(store.db, id)!, content);
  const sheets = await readXlsx(await reportWorkbook(shown));
  const tables = content.parts.flatMap(({ tables: own }) => own);
  expect(sheets).toHaveLength(tables.length + 1);
  const totals = sheets[1]!.data;
  expect(totals[1]![1]).toBe(tables[0]!.rows[0]![1]!.value);
});

test('a single reading is a report of its own', () => {
  const change = context().changes.find(({ id }) => id === changeId)!;
  const content = readingReport(context(), tools(), change)!;
  expect(content.title).toBe('Say it first');
  expect(content.parts.map(({ key }) => key)).toEqual(['changes', 'traffic', 'glossary']);
  expect(part(content, 'changes').sentences[0]).not.toContain('change:');
  // Its figures are those of the reading, over the reading's own spans, and not of any other days.
  const { metrics, net } = readChange(context(), new Engines(store.db), change);
  const [table] = part(content, 'traffic').tables;
  const values = (measure: string) =>
    table!.rows.find(([cell]) => cell!.value === measure)!.map(({ value }) => value);
  for (const measure of ['clicks', 'impressions', 'ctr'] as const)
    expect(values(measure).slice(1, 4)).toEqual([
      metrics[measure].before,
      metrics[measure].after,
      metrics[measure].difference,
    ]);
  expect(values('clicks')[5]).toBe(net!.clicks!.ratio);
  expect(part(content, 'traffic').sentences).toEqual([]);
});

test('a round is a report of its own: what its turn brought, each page, and the days', async () => {
  const roundId = await aRound(store.db, site, PATHS.slice(0, 8), { draw: 'halves', seed: 3 });
  const nothing = roundReport(context(), tools(), findRound(store.db, roundId)!)!;
  expect(nothing.parts.map(({ sentences }) => sentences)).toEqual([['Nothing of it was made yet.']]);
  await recordMade(store.db, site, roundId, { half: 'first', day: '2026-07-06', pageIds: null });
  const round = findRound(store.db, roundId)!;
  const content = roundReport(context(), tools(), round)!;
  const turn = readRound(context(), new Engines(store.db), round).first!;
  const [effects, pages] = content.parts[0]!.tables;
  expect([content.title, content.parts[0]!.sentences[0]]).toEqual([
    'Round',
    plainSentence(turnSentence('title-rewrite', turn)),
  ]);
  // The figures are those of the reading itself.
  expect(effects!.rows.map(([, effect]) => effect!.value)).toEqual(
    ROUND_MEASURES.map((measure) => turn.effects[measure] && Math.exp(turn.effects[measure].net)),
  );
  expect(pages!.rows.map(([page, half]) => [page!.value, half!.text])).toEqual(
    turn.pages.map(({ page, changed }) => [page.address, changed ? 'changed' : 'waiting']),
  );
  expect(content.parts[0]!.strips!.changes).toEqual([{ day: turn.day, title: 'Round' }]);
});

test('a logo is the picture that it says it is', () => {
  const as = (type: string, bytes: number[]) =>
    `data:image/${type};base64,${Buffer.from(bytes).toString('base64')}`;
  expect(() => checkLogo(as('png', [137, 80, 78, 71, 13, 10, 26, 10, 0]))).not.toThrow();
  expect(() => checkLogo(as('jpeg', [0xff, 0xd8, 0xff, 0xe0]))).not.toThrow();
  expect(() => checkLogo(null)).not.toThrow();
  expect(() => checkLogo(as('png', [0xff, 0xd8, 0xff]))).toThrow('whatever its name says');
  for (const logo of [
    'data:image/svg+xml;base64,AAAA',
    'https://a.example/logo.png',
    'data:image/png;base64,"x"',
  ])
    expect(
      newReportSchema.safeParse({ title: 'R', from: '2026-06-01', to: '2026-06-02', logo }).success,
    ).toBe(false);
  const backwards = newReportSchema.safeParse({ title: 'R', from: '2026-06-02', to: '2026-06-01' });
  expect(backwards.error!.issues[0]!.message).toBe('The last day comes before the first.');
});

test.each([
  ['3.12%', 0.0312, 0.0312, '0.00%'],
  ['+9%', 1.09, 0.09, '+0%;-0%;0%'],
  ['\u22127%', 0.93, -0.07, '+0%;-0%;0%'],
  ['12,025', 12_025, 12_025, '#,##0'],
  ['+1,240', 1240, 1240, '+#,##0;-#,##0;#,##0'],
  ['8.4', 8.41, 8.41, '#,##0.0'],
])('a figure written as %s keeps its number and its form in a spreadsheet', (text, value, kept, format) => {
  const cell = cellOf({ text, value }, true);
  expect(cell).toEqual({ value: expect.closeTo(kept, 9), type: Number, format });
});

test('days are dates in a spreadsheet, and words stay words', () => {
  expect(cellOf({ text: '1 Nov 2026', value: '2026-11-01' }, false)).toEqual({
    ...{ value: new Date('2026-11-01T00:00:00Z'), type: Date, format: 'd mmm yyyy' },
  });
  expect(cellOf({ text: 'lifted', value: 'lifted' }, false)).toEqual({ value: 'lifted', type: String });
});
