import type { APIRequestContext } from '@playwright/test';
import { strToU8, zipSync } from 'fflate';
import { EMPTY, expect, importDone, test } from './support';

test.use({ baseURL: EMPTY });

const file = (name: string, content: string | Uint8Array) => ({
  ...{ name, mimeType: 'application/octet-stream' },
  buffer: Buffer.from(content),
});

/** A site of its own for each test. */
async function newSite(request: APIRequestContext): Promise<number> {
  const name = `arrivals-${Date.now()}`;
  const data = { name, address: `https://${name}.quillow-bees.example` };
  const answer = await request.post('/api/v1/sites', { data });
  return ((await answer.json()) as { id: number }).id;
}

const GUIDES = ['wax', 'smoke', 'wasps', 'mead'];
const searchCsv = (days = 70) =>
  [
    'date,page,clicks,impressions,position',
    ...Array.from({ length: days }, (_, i) => {
      const date = new Date(Date.parse('2026-08-01') + i * 86_400_000).toISOString().slice(0, 10);
      return GUIDES.map((guide, g) => `${date},/guides/${guide}/,${10 * (g + 1)},400,5`);
    }).flat(),
  ].join('\n');

async function bringIn(request: APIRequestContext, siteId: number, csv: string): Promise<void> {
  const sent = await request.post(`/api/v1/sites/${siteId}/imports`, {
    ...{ data: csv, headers: { 'Content-Type': 'text/csv' } },
  });
  await importDone(request, `/api/v1/imports/${((await sent.json()) as { id: number }).id}`);
}

test('landing pages: the channels that count are chosen, and the rule that joins them to search pages is one click away', async ({
  page,
  request,
}) => {
  const site = await newSite(request);
  await bringIn(request, site, searchCsv());
  await page.goto(`/sites/${site}/intake`);
  const visits = [
    'Date,Landing page,Source / medium,Sessions,Key events,Total revenue',
    ...GUIDES.flatMap((guide) => [
      `2026-09-01,/guides/${guide},google / organic,40,2,19.5`,
      `2026-09-01,/guides/${guide},newsletter / email,9,0,0`,
    ]),
  ].join('\n');
  await page.setInputFiles('input[type=file]', file('visits.csv', visits));
  await expect(page.getByText('Rows by landing page')).toBeVisible();
  const choice = page.getByRole('group', { name: /Values of “Source \/ medium” that count/ });
  await expect(choice.getByLabel(/google \/ organic/)).toBeChecked();
  await expect(choice.getByLabel(/newsletter \/ email/)).not.toBeChecked();
  await expect(page.getByText('left out: it is of a kind that does not count').first()).toBeVisible();
  await page.getByRole('button', { name: 'Bring in 4 of 8 rows' }).click();
  await expect(page.getByText('4 rows by landing page are in')).toBeVisible();
  await expect(page.getByText('left out, being of a kind that does not count')).toBeVisible();

  const said = '4 of 4 landing pages differ from search pages only by the slash at the end.';
  await expect(page.getByText(said)).toBeVisible();
  // The form offers the page that has the figures, also where the other is typed.
  await page.goto(`/sites/${site}/ledger/new`);
  await page.getByRole('combobox', { name: 'Pages' }).fill('/guides/wasps');
  await expect(page.getByRole('listbox').getByRole('option').first()).toContainText(
    '/guides/wasps/840 clicks',
  );
  const logged = await request.post(`/api/v1/sites/${site}/changes`, {
    data: { title: 'On the wrong twin', kind: 'headings', day: '2026-09-05', pages: ['/guides/wasps'] },
  });
  expect((await logged.json()).cautions).toEqual([
    { field: 'pages.0', message: expect.stringContaining('/guides/wasps/ has (840 clicks') },
  ]);

  await page.goto(`/sites/${site}/intake`);
  await page.getByRole('link', { name: 'visits.csv' }).click();
  await page.getByRole('link', { name: 'See the rule that joins them, and apply it' }).click();
  await expect(page.getByText('8 pages become 4 pages.')).toBeVisible();
  await page.getByRole('button', { name: 'Save these rules' }).click();
  await expect(page.getByText('4 pages are in both sources')).toBeVisible();
  await page.goBack();
  await expect(page.getByText(said)).toHaveCount(0);
});

test('the tables of a ZIP are taken one by one, what cannot be read is named, and the list counts while they come in', async ({
  page,
  request,
}) => {
  const site = await newSite(request);
  await page.goto(`/sites/${site}/intake`);
  const csv = (day: string) => `date,page,clicks,impressions\n${day},/guides/wax/,1,9`;
  const zip = zipSync({
    ...{ 'august.csv': strToU8(csv('2026-08-01')), 'september.csv': strToU8(csv('2026-09-01')) },
    ...{ 'read me.txt': strToU8('hello') },
  });
  await page.setInputFiles('input[type=file]', file('figures.zip', zip));
  await expect(page.getByText(/figures.zip: read me.txt: This does not look like a CSV/)).toBeVisible();
  await expect(page.getByRole('link', { name: 'figures: september.csv' })).toBeVisible();
  await page.getByRole('button', { name: 'Bring in all 2 as they are understood' }).click();
  await expect(page.getByText('2 files in the queue.')).toBeVisible();
  // The list follows them by itself, without being opened anew.
  for (const day of ['1 Aug 2026', '1 Sep 2026'])
    await expect(page.getByRole('cell', { name: day, exact: true })).toBeVisible();
});

test('a ledger kept in a sheet comes in, the same sheet again changes nothing, and all of it can be undone', async ({
  page,
  request,
}) => {
  const site = await newSite(request);
  const sheet = [
    'Date;URL;What changed;Type;Old;New;By',
    '14.09.2026;/guides/wax/;Shorter titles;title;Old wax;New wax;MH',
    '14.09.2026;/guides/smoke/;Shorter titles;title;Old smoke;New smoke;MH',
    '16.09.2026;https://elsewhere.example/;Not ours;title;;;MH',
  ].join('\n');
  const send = async () => {
    await page.goto(`/sites/${site}/intake`);
    await page.setInputFiles('input[type=file]', file('what we did.csv', sheet));
  };
  await send();
  await expect(
    page.getByText('A ledger of changes: 2 rows that are new, 1 that cannot be read'),
  ).toBeVisible();
  await expect(page.getByText(/refused: elsewhere.example is another site/)).toBeVisible();
  await page.getByLabel(/rows of the same day and wording are one change/).check();
  await page.getByRole('button', { name: 'Log 1 change' }).click();
  await expect(page.getByText('2 rows of the sheet are in the ledger, as 1 change.')).toBeVisible();
  await page.getByRole('link', { name: 'To the ledger' }).click();
  await page.getByText('Shorter titles').first().click();
  await expect(page.getByRole('heading', { name: 'Shorter titles' })).toBeVisible();

  await send();
  await expect(page.getByText('All of its rows are in the ledger already.')).toBeVisible();
  const again = await request.post(`/api/v1/sites/${site}/changes/import?join=true`, {
    ...{ data: sheet, headers: { 'Content-Type': 'text/csv' } },
  });
  expect(again.status()).toBe(202);
  const done = await importDone(request, again.headers().location!);
  expect(done).toMatchObject({ about: 'changes', rowsStored: 0, rowsRepeated: 2, rowsRefused: 1 });

  await page.goto(`/sites/${site}/intake`);
  await page
    .getByRole('row')
    .filter({ hasText: 'what we did.csv' })
    .filter({ hasText: 'done' })
    .getByRole('link')
    .click();
  await page.getByRole('button', { name: /Undo/ }).click();
  await expect(page.getByText('its changes are no longer in the ledger')).toBeVisible();
  expect(await (await request.get(`/api/v1/sites/${site}/changes`)).json()).toEqual([]);
});

test('many pages are picked in one go, and the form takes what an address names', async ({
  page,
  request,
}) => {
  const site = await newSite(request);
  await bringIn(request, site, searchCsv(30));
  await page.goto(`/sites/${site}/pages?q=w`);
  await page.getByRole('link', { name: 'Log a change on these 2' }).click();
  await expect(page.getByRole('list', { name: 'Pages chosen' }).getByRole('listitem')).toHaveCount(2);
  await page.getByRole('button', { name: 'take all off' }).click();
  await page.getByRole('combobox', { name: 'Pages' }).fill('/guides/');
  await page
    .getByRole('listbox')
    .getByRole('option', { name: /^All 4 pages under \/guides\// })
    .click();
  await expect(page.getByRole('list', { name: 'Pages chosen' }).getByRole('listitem')).toHaveCount(4);

  const given = new URLSearchParams({
    ...{ page: '/guides/wax/', title: 'From a bookmark', old: 'Old title', new: 'New title' },
    ...{ kind: 'meta-description', day: '2026-08-20' },
  });
  await page.goto(`/sites/${site}/ledger/new?${given}`);
  await expect(page.getByLabel('What was changed')).toHaveValue('From a bookmark');
  await expect(page.getByLabel('Old text')).toHaveValue('Old title');
  await expect(page.locator('form').getByLabel('Kind', { exact: true })).toHaveValue('meta-description');
  await expect(page.locator('form').getByLabel('Day', { exact: true })).toHaveValue('20 Aug 2026');
  await page.goto(`/sites/${site}/settings`);
  const bookmark = page.getByRole('link', { name: 'Log a change', exact: true });
  await expect(bookmark).toHaveAttribute(
    'href',
    new RegExp(`^javascript:void open.*/sites/${site}/ledger/new`),
  );
});

test('a change of address offers to join the two, and the reading then follows the page', async ({
  page,
  request,
}) => {
  const site = await newSite(request);
  const rows = Array.from({ length: 70 }, (_, i) => {
    const date = new Date(Date.parse('2026-08-01') + i * 86_400_000).toISOString().slice(0, 10);
    return `${date},${i < 30 ? '/old-guide/' : '/new-guide/'},10,100,4`;
  });
  await bringIn(request, site, ['date,page,clicks,impressions,position', ...rows].join('\n'));
  await page.goto(
    `/sites/${site}/ledger/new?page=/new-guide/&title=Moved&kind=address-or-redirect&day=2026-08-31`,
  );
  await page.getByLabel('Old address').fill('/old-guide/');
  await page.getByLabel('New address').fill('/new-guide/');
  await page.getByRole('button', { name: 'Log the change' }).click();
  await expect(page.getByText('two pages so far, of which each has one side of the figures')).toBeVisible();
  await page.getByRole('button', { name: 'Join them, so that the reading follows the page' }).click();
  await expect(page.getByText('joined, and read as one page')).toBeVisible();
  await expect(
    page
      .getByText('Until 30 August 2026 /old-guide/ carried the figures, from 31 August 2026 on /new-guide/.')
      .first(),
  ).toBeVisible();
});
