import AxeBuilder from '@axe-core/playwright';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { writeFileSync } from 'node:fs';
import type { APIRequestContext } from '@playwright/test';
import { expect, test } from './support';

type Cell = { text: string; value: number | string | null };
type Table = { title: string; columns: string[]; rows: Cell[][] };
type Shown = {
  parts: { key: string; sentences: string[]; tables: Table[] }[];
  readOn: string;
};
/** Days that a month counts as. */
const MONTH_DAYS = 30;
const SUMMER = { title: 'Summer and autumn', from: '2026-06-01', to: '2026-11-19', scope: { kind: 'site' } };

async function made(request: APIRequestContext, over: object = {}): Promise<number> {
  const answer = await request.post('/api/v1/sites/1/reports', { data: { ...SUMMER, ...over } });
  expect(answer.status()).toBe(201);
  return (await answer.json()).id;
}
const shown = async (request: APIRequestContext, id: number, issue = ''): Promise<Shown> =>
  (await request.get(`/api/v1/reports/${id}?format=json${issue}`)).json();
const tablesOf = (report: Shown, key: string) => report.parts.find((part) => part.key === key)!.tables;

test('every figure of a report is that of the interface for scripts', async ({ request }) => {
  const id = await made(request);
  const report = await shown(request, id);
  expect(report.readOn).toBe('2026-11-24');

  // Changes: each row against its own reading.
  const [changes, ...turns] = tablesOf(report, 'changes');
  expect(changes!.rows.length).toBeGreaterThan(10);
  for (const row of changes!.rows) {
    const reading = await (await request.get(`/api/v1/changes/${row[0]!.value}/reading`)).json();
    const verdict = row.find(({ value }) => value === reading.verdict);
    expect([row[0]!.text, verdict?.value]).toEqual([reading.change.title, reading.verdict]);
    const effect = reading.net?.[reading.judged] ?? null;
    const [net, range] = row.slice(-2);
    expect(net!.value).toBe(effect === null ? null : (effect.ratio ?? effect.placesGained));
    expect(range!.value).toBe(effect === null ? null : `${effect.low} ${effect.high}`);
  }
  // Rounds: each turn against the reading of its round.
  expect(turns).toHaveLength(3);
  for (const table of turns) {
    const number = table.title.startsWith('Summer') ? 1 : 2;
    const whole = await (await request.get(`/api/v1/rounds/${number}/reading`)).json();
    const turn = table.title.includes('second half') ? whole.second : whole;
    const names: Record<string, string> = { shown: 'showings' };
    for (const [name, , effect, range, chance] of table.rows) {
      const told = turn.effects[names[name!.text] ?? name!.text];
      expect(effect!.value).toBeCloseTo(told.ratio, 12);
      expect(range!.value).toBe(`${told.low} ${told.high}`);
      expect(chance!.value).toBe(told.p);
    }
  }
  // Totals: against the site's own days.
  const [totals] = tablesOf(report, 'traffic');
  const compared = await (
    await request.get('/api/v1/sites/1/comparison', {
      params: { before: '2025-12-11..2026-05-31', after: '2026-06-01..2026-11-19' },
    })
  ).json();
  for (const [name, now, before, difference, ...further] of totals!.rows) {
    const metric = compared.metrics[name!.text.toLowerCase()];
    expect(now!.value).toBeCloseTo(metric.after, 9);
    expect(before!.value).toBeCloseTo(metric.before, 9);
    // A gain of places is a fall of the position.
    const sign = name!.text === 'position' ? -1 : 1;
    expect(difference!.value).toBeCloseTo(sign * (metric.after - metric.before), 9);
    expect(further).toEqual([]);
  }
  // What it is worth: each change's net clicks, over the days after, as a month.
  const [worth] = tablesOf(report, 'worth');
  const listed = (await (await request.get('/api/v1/sites/1/changes')).json()) as {
    id: number;
    title: string;
  }[];
  let worthOfChanges = 0;
  for (const [name, net, range] of worth!.rows) {
    const change = listed.find(({ title }) => title === name!.text);
    if (!change) continue;
    worthOfChanges++;
    const reading = await (await request.get(`/api/v1/changes/${change.id}/reading`)).json();
    const { firstDay, lastDay } = reading.spans.after;
    const days = (Date.parse(lastDay) - Date.parse(firstDay)) / 86_400_000 + 1;
    const gained = (ratio: number) => (reading.metrics.clicks.after * (1 - 1 / ratio) * MONTH_DAYS) / days;
    const { ratio, low, high } = reading.net.clicks;
    expect([name!.text, net!.value]).toEqual([name!.text, expect.closeTo(gained(ratio), 6)]);
    const whole = (text: string) => Number(text.replace('−', '-').replaceAll(',', ''));
    const ends = range!.text.split(' to ').map(whole);
    expect([name!.text, ...ends]).toEqual([name!.text, Math.round(gained(low)), Math.round(gained(high))]);
  }
  expect(worthOfChanges).toBeGreaterThan(3);
  // Of a round's turn: its net clicks on those of the pages that were changed.
  const whole = await (await request.get('/api/v1/rounds/1/reading')).json();
  for (const [turn, half] of [
    [whole, 'first'],
    [whole.second, 'second'],
  ] as const) {
    const row = worth!.rows.find(
      ([name]) => name!.text === `Summer titles: the answer in front, ${half} half`,
    )!;
    const changed = turn.byPage.filter((one: { changed: boolean }) => one.changed);
    const span = ({ firstDay, lastDay }: { firstDay: string; lastDay: string }) => `${firstDay}..${lastDay}`;
    const both = await (
      await request.get('/api/v1/sites/1/comparison', {
        params: {
          pages: changed.map((one: { page: string }) => one.page).join(','),
          ...{ before: span(turn.before), after: span(turn.read) },
        },
      })
    ).json();
    const days = (Date.parse(turn.read.lastDay) - Date.parse(turn.read.firstDay)) / 86_400_000 + 1;
    const gained = (both.metrics.clicks.after * (1 - 1 / turn.effects.clicks.ratio) * MONTH_DAYS) / days;
    expect([half, row[1]!.value]).toEqual([half, expect.closeTo(gained, 6)]);
  }
  // What is waited for: the day on which each reading can be read.
  for (const table of tablesOf(report, 'waiting'))
    for (const [name, until] of table.rows) {
      const change = listed.find(({ title }) => title === name!.text);
      if (!change) continue;
      const reading = await (await request.get(`/api/v1/changes/${change.id}/reading`)).json();
      expect([name!.text, until!.value]).toEqual([name!.text, reading.spans.completeOn]);
    }
  await request.delete(`/api/v1/reports/${id}`);
});

test('what came of all changes together is what the scorebook says', async ({ request }) => {
  const all = (await (await request.get('/api/v1/sites/1/changes')).json()) as { id: number }[];
  const id = await made(request, {
    scope: { kind: 'changes', changeIds: all.map((change) => change.id) },
    parts: ['together'],
  });
  const [byKind] = tablesOf(await shown(request, id), 'together');
  const book = await (await request.get('/api/v1/sites/1/scorebook?by=kind')).json();
  // Rounds are not among changes that are chosen one by one; in the demo they are of one kind.
  const others = (kind: unknown) => kind !== 'title-rewrite';
  const rows = byKind!.rows.filter(([kind]) => others(kind!.value));
  const items = book.items.filter(({ key }: { key: string }) => others(key));
  expect(rows.map(([kind]) => kind!.value)).toEqual(items.map(({ key }: { key: string }) => key));
  expect(rows.length).toBeGreaterThan(8);
  for (const [i, row] of rows.entries()) {
    const { changes, lifted, dropped, held, unclear, effect, next } = items[i];
    expect(row.slice(1, 6).map(({ value }) => value)).toEqual([changes, lifted, dropped, held, unclear]);
    expect(row[6]!.value).toBe(effect?.ratio ?? null);
    const percents = (text: string) =>
      [...text.matchAll(/([−+]?)([\d.]+)%/g)].map(([, sign, n]) => (sign === '−' ? -1 : 1) * Number(n));
    const rounded = (ends: { low: number; high: number } | null) =>
      ends === null ? [] : [ends.low, ends.high].map((end) => expect.closeTo(100 * (end - 1), -0.31));
    expect(percents(row[7]!.text)).toEqual(rounded(effect));
    expect(percents(row[8]!.text)).toEqual(rounded(next));
  }
  await request.delete(`/api/v1/reports/${id}`);
});

test('names and money are left out where that is wished', async ({ request }) => {
  const id = await made(request, { leaveOut: ['people', 'pages', 'money'], parts: ['changes', 'worth'] });
  const markdown = await (await request.get(`/api/v1/reports/${id}?format=md`)).text();
  expect(markdown).not.toContain('IK');
  expect(markdown).not.toContain('/guides/');
  expect(markdown).not.toContain('smoker');
  expect(markdown).not.toContain('a click');
  expect(markdown.match(/^## /gm)).toHaveLength(2);
  await request.delete(`/api/v1/reports/${id}`);
  const wrong = await request.post('/api/v1/sites/1/reports', {
    data: { ...SUMMER, logo: `data:image/png;base64,${Buffer.from('<svg>').toString('base64')}` },
  });
  expect(wrong.status()).toBe(422);
});

test('a report is made, read, sent, and stays as it was sent', async ({ page, request }) => {
  await page.goto('/sites/1/reports/new');
  await page.getByLabel('Title').fill('What we did');
  await page.getByRole('button', { name: 'Leave out: What it is worth' }).click();
  await page.getByRole('button', { name: 'Up: What was learned and decided' }).click();
  await page.getByText('your own words').first().click();
  await page.getByLabel('before “What happened to the search traffic”').fill('A season like the last.');
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByRole('heading', { name: 'What we did' }).first()).toBeAttached();
  await expect(page.getByText('A season like the last.')).toBeVisible();
  await expect(page.getByRole('heading', { name: 'What it is worth' })).toHaveCount(0);
  const headings = await page.getByRole('article').getByRole('heading', { level: 3 }).allInnerTexts();
  expect(headings.indexOf('What was learned and decided')).toBeLessThan(
    headings.indexOf('What came of it together'),
  );
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag22aa']).analyze();
  expect(violations.map(({ id }) => id)).toEqual([]);
  await page.getByRole('button', { name: 'Keep as sent' }).click();
  await expect(page).toHaveURL(/issue=1/);
  await expect(page.getByText(/Issue 1, sent 24 Nov 2026/)).toBeVisible();
  const id = Number(/reports\/(\d+)/.exec(page.url())![1]);
  const sent = await shown(request, id, '&issue=1');
  const logged = await request.post('/api/v1/sites/1/changes', {
    data: { title: 'One more', kind: 'other', day: '2026-11-18', pages: ['/about/'] },
  });
  expect((await shown(request, id, '&issue=1')).parts).toEqual(sent.parts);
  const now = (await shown(request, id)) as Shown & { changed: string[] };
  expect(now.changed).toContain('One more: new.');
  await request.delete(`/api/v1/changes/${(await logged.json()).id}`);
  await page.goto(`/sites/1/reports/${id}`);
  await page.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByText('The report is deleted.')).toBeVisible();
});

test('the file opens without network, and prints on A4 with no row cut', async ({
  page,
  request,
  browser,
}, info) => {
  const id = await made(request);
  const html = await (await request.get(`/api/v1/reports/${id}?format=html`)).text();
  const report = await shown(request, id);
  await request.delete(`/api/v1/reports/${id}`);
  const file = info.outputPath('report.html');
  writeFileSync(file, html);
  // A page of its own, which may go nowhere.
  const context = await browser.newContext({ offline: true, viewport: { width: 390, height: 800 } });
  const alone = await context.newPage();
  const asked: string[] = [];
  alone.on('request', (one) => asked.push(one.url()));
  await alone.goto(`file://${file}`);
  expect(asked).toEqual([`file://${file}`]);
  expect(await alone.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBeLessThanOrEqual(
    0,
  );
  const { violations } = await new AxeBuilder({ page: alone })
    .withTags(['wcag2a', 'wcag2aa', 'wcag22aa'])
    .analyze();
  expect(violations.map((one) => `${one.id}: ${one.nodes[0]?.html}`)).toEqual([]);
  for (const format of ['A4', 'Letter'] as const) {
    const pdf = await alone.pdf({ format, printBackground: true });
    const document = await getDocument({ data: new Uint8Array(pdf), verbosity: 0 }).promise;
    expect(document.numPages).toBeGreaterThan(2);
    expect(document.numPages).toBeLessThan(12);
    const words: string[] = [];
    const pages: { text: string; at: number }[][] = [];
    let drawn = 0;
    for (let n = 1; n <= document.numPages; n++) {
      const sheet = await document.getPage(n);
      const { items } = await sheet.getTextContent();
      const texts = items.flatMap((item) => ('str' in item && item.str.trim() !== '' ? [item] : []));
      words.push(...texts.map(({ str }) => str));
      pages.push(texts.map(({ str, transform }) => ({ text: str, at: transform[5] as number })));
      // Nothing is written over the edge of the sheet.
      const [, , width, height] = sheet.view as [number, number, number, number];
      for (const { transform, width: wide } of texts) {
        expect(transform[4]).toBeGreaterThanOrEqual(0);
        expect(transform[4] + wide).toBeLessThanOrEqual(width + 1);
        expect(transform[5]).toBeGreaterThan(20);
        expect(transform[5]).toBeLessThan(height - 20);
      }
      drawn += (await sheet.getOperatorList()).fnArray.length;
    }
    // No row is cut: all of its title and its figures stand on one page, and within the height of its lines.
    const squeezed = (text: string) => text.replaceAll(/\s+/g, '');
    for (const row of tablesOf(report, 'changes')[0]!.rows) {
      const [title, ...rest] = row.map(({ text }) => text);
      const range = rest.at(-1)!;
      const whole = pages.filter((page) =>
        squeezed(page.map(({ text }) => text).join('')).includes(squeezed(title!)),
      );
      const beside = whole.flatMap((page) => {
        const lines = page.filter(({ text }) => title!.startsWith(text.trim()) && text.trim().length > 3);
        return page.filter(
          ({ text, at }) =>
            squeezed(text) === squeezed(range) && lines.some((line) => Math.abs(line.at - at) < 4),
        );
      });
      expect([title, whole.length > 0, range.length < 4 || beside.length > 0]).toEqual([title, true, true]);
    }
    // Where a table goes on, its head stands again.
    const [head] = tablesOf(report, 'changes');
    const withHead = pages.filter((page) => page.some(({ text }) => text.trim() === head!.columns.at(-1)));
    const withRows = pages.filter((page) =>
      head!.rows.some((row) =>
        page.some(({ text }) => squeezed(text) === squeezed(row.at(-1)!.text) && row.at(-1)!.text.length > 3),
      ),
    );
    expect(withRows.length).toBeGreaterThan(1);
    for (const page of withRows) expect(withHead).toContain(page);
    // All text can be selected, the names of the strips among it, and more is drawn than text alone.
    const all = words.join(' ').replaceAll(/\s+/g, ' ');
    for (const { sentences } of report.parts) expect(all).toContain(sentences[0]!.slice(0, 30));
    expect(all).toContain('Impressions');
    expect(drawn).toBeGreaterThan(500);
  }
  await context.close();
  await page.goto('about:blank');
});

test('a single reading is a report of one page, and goes into the clipboard for a ticket', async ({
  page,
  request,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  const changes = (await (await request.get('/api/v1/sites/1/changes')).json()) as {
    id: number;
    title: string;
  }[];
  const { id } = changes.find(({ title }) => title === 'Shorter title on the smoker guide')!;
  await page.goto(`/sites/1/ledger/${id}`);
  await page.getByRole('button', { name: 'Copy for a ticket' }).click();
  await expect(page.getByText('The reading is in the clipboard, as Markdown.')).toBeVisible();
  const copied = await page.evaluate(() => navigator.clipboard.readText());
  expect(copied).toMatch(/^# Shorter title on the smoker guide\n/);
  expect(copied).toContain('| change | day |');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'As a report' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('Shorter title on the smoker guide.html');
});

test('a report is about changes that are chosen one by one, and its form keeps what is typed', async ({
  page,
  request,
}) => {
  await page.goto('/sites/1/reports/new');
  await page.getByLabel('Title').fill('Two changes');
  await page.getByLabel('About').selectOption({ label: 'changes that I choose' });
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByRole('group', { name: /^Which changes/ })).toContainText(
    'Choose at least one change.',
  );
  await page.getByLabel('From', { exact: true }).fill('2026-06-01');
  await page.getByLabel('Search among the changes').fill('smoker guide');
  await page.getByRole('checkbox', { name: /^Shorter title on the smoker guide/ }).click();
  await page.getByLabel('Search among the changes').fill('nothing of the kind');
  await expect(page.getByText('No change says that.')).toBeVisible();
  await page.getByLabel('Search among the changes').fill('wasp');
  await page.getByRole('checkbox', { name: /^Wasp guide moved/ }).click();
  await page.reload();
  await expect(page.getByText(/This was typed on/)).toBeVisible();
  await expect(page.getByText('Which changes: 2 changes')).toBeVisible();
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByRole('heading', { name: 'Two changes' }).first()).toBeVisible();
  await expect(
    page.getByRole('rowheader', { name: 'Wasp guide moved under the calendar' }).first(),
  ).toBeVisible();
  const id = Number(new URL(page.url()).pathname.split('/').at(-1));
  const report = await shown(request, id);
  expect(
    tablesOf(report, 'changes')[0]!
      .rows.map(([title]) => title!.text)
      .sort(),
  ).toEqual(['Shorter title on the smoker guide', 'Wasp guide moved under the calendar']);
  expect((await request.delete(`/api/v1/reports/${id}`)).status()).toBe(204);
});
