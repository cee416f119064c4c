import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { Page } from '@playwright/test';
import { changeId, DATA, expect, test } from './support';

/** The pages of the made-up site, as its people would edit them: a file that the stand-in serves from. */
const SITE_FILE = path.join(DATA.demo, 'outside', 'pages.json');

function editSite(at: string, day: string, page: Record<string, unknown>): void {
  const world = JSON.parse(readFileSync(SITE_FILE, 'utf8')) as { edits: unknown[] };
  world.edits.push({ day, path: at, page });
  writeFileSync(SITE_FILE, JSON.stringify(world));
}

const steps = (page: Page) => page.getByRole('list', { name: 'Steps' });
const titles = (page: Page) =>
  page.getByRole('heading', { name: 'Title on the page and in the results' }).locator('../..');

/** Takes a step today and then gives it its day. */
async function takeStep(page: Page, name: string, day: string, shown: string): Promise<void> {
  await steps(page)
    .getByRole('button', { name: `${name}?` })
    .click();
  await steps(page).getByLabel(`Day of “${name}”`).fill(day);
  await steps(page).getByRole('button', { name: 'Save' }).click();
  await expect(steps(page).getByRole('button', { name: `${name} ${shown}` })).toBeVisible();
}

test('one change from plan to decision, with its page, the index and the results; then reworked, then undone', async ({
  page,
}) => {
  // Planned, with what is expected, and whether the page could show it.
  await page.goto('/sites/1/ledger');
  await page.keyboard.press('n');
  await page.getByLabel('What was changed').fill('Requeening title asks the question');
  await page.getByLabel('Pages').fill('/guides/requeening/');
  await page.keyboard.press('Enter');
  await page.getByLabel('Day', { exact: true }).fill('2026-09-14');
  await page.getByLabel(/still to be made/).check();
  await page.getByLabel('New text').fill('When to requeen a colony, and how');
  await page.getByLabel('Metric').selectOption('CTR');
  await page.getByLabel('By how much').fill('30');
  await expect(
    page.getByText(/^By 14 October 2026, with 23 days to read, these pages could show/),
  ).toBeVisible();
  await page.getByLabel('Tags').fill('autumn round');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('Still to be made.')).toBeVisible();
  await expect(page.getByRole('link', { name: 'autumn round' })).toBeVisible();

  // It stands on the desk, and is made.
  await page.getByRole('link', { name: 'Desk' }).click();
  await page.getByRole('link', { name: 'Requeening title asks the question' }).click();
  await takeStep(page, 'made', '2026-09-14', '14 Sep');
  await takeStep(page, 'reindex requested', '2026-09-14', '14 Sep');
  await page.getByRole('link', { name: 'Desk' }).click();
  await expect(page.getByRole('heading', { name: 'Not crawled yet' })).toBeVisible();
  await page.getByRole('link', { name: 'Requeening title asks the question' }).first().click();

  // The page is fetched and the index is asked: it was crawled within a day or two, and the results show the title.
  await expect(titles(page).getByText('Nobody has looked at the page or at the results yet.')).toBeVisible();
  await titles(page).getByRole('button', { name: 'Fetch it and ask the index' }).click();
  await expect(page.getByText(/The index says: crawled since\./)).toBeVisible();
  await expect(steps(page).getByRole('button', { name: /^crawled again 1[4-6] Sep$/ })).toBeVisible();
  await expect(steps(page).getByRole('button', { name: /^seen in results (1[5-9]|20) Sep$/ })).toBeVisible();
  await expect(
    titles(page).getByText(/^The results show the title of the page, seen 24 Nov 2026\.$/),
  ).toBeVisible();

  // It is read, reviewed and decided.
  await expect(
    page.getByText(/CTR \+30%, review 14 Oct 2026: (met|not met|not certain it reached \+30%)/),
  ).toBeVisible();
  await takeStep(page, 'reviewed', '2026-10-12', '12 Oct');
  await page.getByLabel('Reason').fill('The question is not what they search for.');
  await page.getByRole('button', { name: 'Rework', exact: true }).click();

  // The rework is filled in and linked, and reads in the chain.
  await expect(page.getByLabel('Old text')).toHaveValue('When to requeen a colony, and how');
  await page.getByLabel('Day', { exact: true }).fill('2026-10-15');
  await page.getByLabel('New text').fill('Requeening: five signs that it is time');
  await page.getByRole('button', { name: 'Log the change' }).click();
  const chain = page.getByRole('list', { name: 'Its chain of changes' });
  await expect(chain.getByRole('listitem')).toHaveCount(2);
  await takeStep(page, 'reindex requested', '2026-10-15', '15 Oct');
  await titles(page).getByRole('button', { name: 'Fetch it and ask the index' }).click();
  await expect(steps(page).getByRole('button', { name: /^crawled again 1[5-7] Oct$/ })).toBeVisible();

  // And undone.
  await page.getByRole('button', { name: 'Revert', exact: true }).click();
  await expect(page.getByLabel('New text')).toHaveValue('When to requeen a colony, and how');
  await page.getByRole('button', { name: 'Log the change' }).click();
  await expect(chain.getByRole('listitem')).toHaveCount(3);
  // Today it was undone, and nothing has been crawled since: the results are old now.
  await titles(page).getByRole('button', { name: 'Fetch it and ask the index' }).click();
  await expect(page.getByText(/The index says: not crawled yet\./)).toBeVisible();
  await expect(
    titles(page).getByText(/^The page is old|^The results are old: they show an earlier title/),
  ).toBeVisible();
  await expect(titles(page).getByText(/^When to requeen a colony, and how/)).toBeVisible();

  // All of them stand on the page's own line, each against its own spans.
  await page.getByRole('main').getByRole('link', { name: '/guides/requeening/', exact: true }).last().click();
  const table = page.getByRole('region', { name: 'Changes of the page' });
  await expect(table.getByRole('link', { name: /Requeening title asks/ })).toHaveCount(3);
  await expect(table.getByText('All of them together, from before the first')).toBeVisible();
  await expect(table.getByRole('img', { name: /^before 17 Aug – 13 Sep, after / })).toBeVisible();
});

test('work on a watched page that nobody logged is found, offered and logged', async ({ page }) => {
  await page.goto('/sites/1/pages');
  await page.getByLabel('Search pages').fill('/guides/nosema/');
  await page.getByRole('link', { name: '/guides/nosema/', exact: true }).click();
  await expect(page.getByText('It has not been fetched yet')).toBeVisible();
  await page.getByRole('button', { name: 'Fetch it now' }).click();
  await expect(page.getByText('Fetched on 24 Nov 2026.')).toBeVisible();
  await page.getByLabel('fetch it every day').check();
  await expect(page.getByRole('heading', { name: 'What it says' })).toBeVisible();

  // Somebody works on the page and tells nobody.
  editSite('/guides/nosema/', '2026-11-24', {
    title: 'Nosema: signs, tests and what to do about it in the 2019 season and after it',
    heading: '',
  });
  await page.getByRole('button', { name: 'Fetch it now' }).click();
  const unlogged = page.getByRole('region', { name: 'Done and not logged' });
  await expect(unlogged.getByText(/nobody logged it: title rewrite, headings\./)).toBeVisible();
  await expect(
    page.getByText(/^Its title is too long to be shown whole: 76 characters, \d+ pixels wide/),
  ).toBeVisible();
  await expect(page.getByText('It has no H1.')).toBeVisible();
  await expect(page.getByText('The title names 2019, a year that has passed.')).toBeVisible();

  // The desk says so too; it can be said to be nothing, and that taken back.
  await page.getByRole('link', { name: 'Desk' }).click();
  await page.getByRole('link', { name: '/guides/nosema/' }).click();
  await unlogged.getByRole('button', { name: 'Nothing to log' }).click();
  await expect(unlogged).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(unlogged).toBeVisible();
  await unlogged.getByRole('link', { name: 'Log it' }).click();
  await expect(page.getByLabel('What was changed')).toHaveValue(
    'Title rewrite, Headings, found on /guides/nosema/',
  );
  await expect(page.getByText(/^One change of 2 parts \(title rewrite, headings\)/)).toBeVisible();
  await page.getByRole('button', { name: 'Log the change' }).click();
  await expect(page.getByText(/^Title rewrite \+ Headings ·/)).toBeVisible();
  await expect(page.getByText(/^2 edits were made at once/)).toBeVisible();
  await page.goBack();
  await page.goto('/sites/1/desk');
  await expect(page.getByRole('link', { name: '/guides/nosema/' })).toHaveCount(0);
});

test('a page that is watched from now on is fetched by itself', async ({ page, request }) => {
  const kept = async () =>
    (
      (await (await request.get('/api/v1/sites/1/snapshots?page=/guides/wax-rendering/')).json()) as {
        items: unknown[];
      }
    ).items.length;
  expect(await kept()).toBe(0);
  await page.goto('/sites/1/pages?q=wax-rendering');
  await page.getByRole('button', { name: 'Fetch it every day' }).click();
  await expect(page.getByText('1 fetched every day')).toBeVisible();
  await expect.poll(kept).toBe(1);
});

test('what the results show is written down by hand, and which title is old is said', async ({ page }) => {
  await page.goto('/sites/1/pages?q=candle-moulds');
  await page.getByRole('link', { name: '/shop/candle-moulds/', exact: true }).click();
  const write = page.getByRole('button', { name: /^Write down the title seen/ });
  await write.click();
  await expect(page.getByLabel(/^Title seen in the results/)).toHaveValue(
    'Candle moulds: what to do, and when',
  );
  await page.getByLabel(/^Title seen in the results/).fill('Moulds for candles');
  await page.getByRole('button', { name: 'seen today' }).click();
  await expect(page.getByText(/^The results word it in their own way/)).toBeVisible();
  await write.click();
  await page.getByRole('button', { name: 'seen today' }).click();
  await expect(page.getByText(/^The results show the title of the page/)).toBeVisible();
});

test('two snapshots are compared, and the address of the comparison reopens it', async ({ page }) => {
  await page.goto('/sites/1/pages?q=queen-excluders');
  await page.getByRole('link', { name: '/guides/queen-excluders/', exact: true }).click();
  await page.getByRole('link', { name: 'against the one before' }).click();
  await expect(
    page.getByRole('heading', { name: 'What differs between 12 Nov 2026 and 16 Nov 2026' }),
  ).toBeVisible();
  await page.goto(page.url());
  await expect(page.locator('ins').first()).toHaveText(/excluders:/);
});

test('a title rewrite on ten pages is logged without the mouse in under thirty seconds', async ({
  page,
  context,
  request,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.goto('/sites/1/desk');
  const pages = [
    'robbing',
    'wasps',
    'nosema',
    'foundation',
    'record-keeping',
    'hive-placement',
    'moving-hives',
    'first-inspection',
    'frame-sizes',
    'varroa-counts',
  ];
  const table = pages.map((name) => `/guides/${name}/\tOld ${name}\tNew ${name}`).join('\n');
  // From the sheet in which the titles were written.
  await page.evaluate((text) => navigator.clipboard.writeText(text), table);
  let keys = 0;
  const press = async (key: string) => {
    keys++;
    await page.keyboard.press(key);
  };
  const begun = Date.now();
  await press('n');
  await expect(page.getByLabel('What was changed')).toBeFocused();
  const title = 'Titles of ten guides say what they are for';
  await page.keyboard.type(title);
  keys += title.length;
  await press('Tab');
  await expect(page.getByLabel('Pages')).toBeFocused();
  await press('Control+v');
  await expect(page.getByRole('list', { name: 'Pages chosen' }).getByRole('listitem')).toHaveCount(10);
  await press('Control+Enter');
  await expect(page.getByText('10 pages, read together')).toBeVisible();
  const seconds = (Date.now() - begun) / 1000;
  await expect(page.getByText('New varroa-counts')).toBeVisible();
  // A key takes an average typist 0.28 s, and making up one's mind 1.35 s each of five times (keystroke-level model, Card,
  // Moran and Newell, Communications of the ACM 23 (1980); from memory).
  const typing = keys * 0.28 + 5 * 1.35;
  test.info().annotations.push({
    type: 'measured',
    description: `${keys} keys, ${typing.toFixed(1)} s of typing and thought, ${seconds.toFixed(1)} s in the browser`,
  });
  console.log(
    `ten pages: ${keys} keys, ${typing.toFixed(1)} s of typing and thought, ${seconds.toFixed(1)} s in the browser`,
  );
  expect(keys).toBeLessThanOrEqual(50);
  expect(typing).toBeLessThan(30);
  // Some of these pages are in a round of the demo.
  await request.delete(`/api/v1/changes/${await changeId(request, title)}`);
});

test('a script fetches a page, compares what it said, and keeps the almanac', async ({ request }) => {
  const taken = await request.post('/api/v1/sites/1/snapshots', { data: { page: '/shop/labels/' } });
  expect(taken.status()).toBe(201);
  const first = await taken.json();
  expect(first).toMatchObject({ status: 200, title: 'Honey labels, step by step', day: '2026-11-24' });
  editSite('/shop/labels/', '2026-11-24', { description: 'Labels that stay on.' });
  const second = await (
    await request.post('/api/v1/sites/1/snapshots', { data: { page: '/shop/labels/' } })
  ).json();
  expect(second.id).not.toBe(first.id);
  const compared = {
    before: first.id,
    after: second.id,
    differences: [
      {
        aspect: 'description',
        kind: 'meta-description',
        before: first.description,
        after: 'Labels that stay on.',
      },
    ],
  };
  for (const query of ['', `?with=${first.id}`])
    expect(await (await request.get(`/api/v1/snapshots/${second.id}/comparison${query}`)).json()).toEqual(
      compared,
    );
  expect((await request.get(`/api/v1/snapshots/${first.id}/comparison`)).status()).toBe(404);
  const list = await (await request.get('/api/v1/sites/1/snapshots?page=/shop/labels/')).json();
  expect(list.items.map(({ id }: { id: number }) => id)).toEqual([second.id, first.id]);
  expect(await (await request.get(`/api/v1/snapshots/${first.id}`)).json()).toEqual(first);
  const refused = await request.post('/api/v1/sites/1/snapshots', { data: { page: '/basket/' } });
  expect(refused.status()).toBe(502);
  expect(refused.headers()['content-type']).toBe('application/problem+json');
  expect((await request.post('/api/v1/sites/1/snapshots', { data: {} })).status()).toBe(422);

  const event = await (
    await request.post('/api/v1/sites/1/events', {
      data: { name: 'Test outage', kind: 'outage', firstDay: '2026-11-01' },
    })
  ).json();
  const put = await request.put(`/api/v1/events/${event.id}`, {
    data: { name: 'Test outage, longer', kind: 'outage', firstDay: '2026-11-01', lastDay: '2026-11-02' },
  });
  expect(await put.json()).toMatchObject({ name: 'Test outage, longer', lastDay: '2026-11-02' });
  expect((await request.delete(`/api/v1/events/${event.id}`)).status()).toBe(204);
  expect((await request.get(`/api/v1/events/${event.id}`)).status()).toBe(404);
});
