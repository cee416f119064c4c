import { expect, test } from './support';

type Round = {
  id: number;
  name: string;
  first: string[];
  second: string[];
  changes: { first: number | null };
};

test('from openings to a round: plan, draw, work, reading, go on, and the second half', async ({
  page,
  request,
}) => {
  await page.goto('/sites/1/openings?kind=chosen-too-little');
  await page.getByRole('link', { name: 'Take the best on as a round' }).click();
  await expect(page.getByText(/would be found eight times in ten within 28 days/)).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Pages that are needed' })).toBeVisible();
  await page.goto(page.url());
  await page.getByLabel('Name', { exact: true }).fill('Winter titles');
  await page.getByLabel('Seed of the draw').fill('31');
  await page.getByRole('button', { name: /^Draw the halves and begin/ }).click();
  await expect(page.getByRole('heading', { name: 'Winter titles' })).toBeVisible();
  await expect(page.getByText('(seed 31)')).toBeVisible();
  const { items } = (await (await request.get('/api/v1/sites/1/rounds')).json()) as { items: Round[] };
  const round = items.find(({ name }) => name === 'Winter titles')!;
  expect(Math.abs(round.first.length - round.second.length)).toBeLessThanOrEqual(1);

  // A text, who, and that the first half was made: in October, so that it can be read already.
  await page.goto(`/sites/1/rounds/${round.id}?view=work`);
  const path = new URL(round.first[0]!).pathname;
  await page.getByLabel(`New text of ${path}`).fill('A title of our own');
  await page.getByLabel(`Who is at work on ${path}`).fill('IK');
  await page.getByLabel('on', { exact: true }).fill('2026-10-15');
  await page.getByRole('button', { name: 'Keep 1 edited line' }).click();
  await expect(page.getByText('Kept.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Keep 1 edited line' })).toHaveCount(0);
  await expect(page.getByLabel('on', { exact: true })).toHaveValue('15 Oct 2026');
  await page.getByRole('button', { name: 'Record it' }).click();
  await expect(page.getByText('made 15 Oct').first()).toBeVisible();
  await page.getByRole('link', { name: 'Reading', exact: true }).click();
  await expect(page.getByText(/new titles/).first()).toBeVisible();
  await expect(page.getByText(/read 18 Oct.{1,3}14 Nov/)).toBeVisible();

  await page.goto(`/sites/1/rounds/${round.id}`);
  await page.getByRole('button', { name: /^Go on with the other/ }).click();
  await page.getByLabel(/Go on, because/).fill('worth the other half');
  await page.getByRole('button', { name: 'Decide' }).click();
  await expect(page.getByText(/: worth the other half/)).toBeVisible();
  await page.getByRole('link', { name: 'To the second half’s work' }).click();
  await expect(page).toHaveURL(/view=work/);
  await page.goto(`/sites/1/rounds/${round.id}?view=work`);
  await page.getByRole('button', { name: 'Record it' }).click();
  await expect(page.getByText('made 24 Nov').first()).toBeVisible();
  const after = (await (await request.get(`/api/v1/rounds/${round.id}`)).json()) as Round & {
    changes: { first: number; second: number };
    pages: { page: string; newText: string | null; person: string | null }[];
  };
  expect(after.pages.find((one) => one.page === round.first[0])).toMatchObject({
    newText: 'A title of our own',
    person: 'IK',
  });
  const logged = await (await request.get(`/api/v1/changes/${after.changes.first}`)).json();
  expect(logged).toMatchObject({ title: 'Winter titles: first half', day: '2026-10-15' });
  expect(logged.pages).toHaveLength(round.first.length);

  // It is taken away again, and could be had back.
  await page.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByText('The round is deleted')).toBeVisible();
  await expect(page.getByRole('link', { name: 'Winter titles' })).toHaveCount(0);
  for (const id of Object.values(after.changes)) await request.delete(`/api/v1/changes/${id}`);
});

test('a finished round says what its halves brought, as scripts are told', async ({ page, request }) => {
  const read = await (await request.get('/api/v1/rounds/1/reading')).json();
  expect(read).toMatchObject({ verdict: 'lifted', movedIn: 'appeal', complete: true, early: null });
  expect(read.second).toMatchObject({ verdict: 'lifted', complete: true });
  expect(read.effects.appeal.p).toBeLessThan(0.02);
  expect(read.effects.appeal.low).toBeGreaterThan(1);
  await page.goto('/sites/1/rounds/1');
  const [found] = read.sentence.split(' Chance alone');
  await expect(page.getByText(found)).toBeVisible();
  await expect(page.getByText('The second turn bears out the first.').first()).toBeVisible();
  await expect(page.getByRole('region', { name: 'The measures' })).toHaveCount(2);
  await page.getByRole('link', { name: 'As it was then' }).click();
  await expect(page.getByRole('columnheader', { name: 'title then' })).toBeVisible();
  await page.getByRole('link', { name: 'Again with the same pages' }).click();
  await expect(page.getByLabel('Pages, one a line')).toHaveValue(/\/shop\/labels\//);
  const asOf = await (await request.get('/api/v1/rounds/1/reading?asOf=2026-07-10')).json();
  expect(asOf).toMatchObject({ verdict: 'waiting', complete: false });
});

test('a running round says whether anything is plain yet and since when, and which page left it', async ({
  page,
  request,
}) => {
  const then = await (await request.get('/api/v1/rounds/2/reading?asOf=2026-11-09')).json();
  expect(then).toMatchObject({ verdict: 'waiting', early: null });
  expect(then.sentence).toContain('Nothing is plain yet');
  await page.goto('/sites/1/rounds/2');
  await expect(page.getByText('So far, the seven new titles are')).toBeVisible();
  await expect(page.getByText('Already plain since 8 November 2026')).toBeVisible();
  await expect(page.getByText(/By the draw of the halves alone: chosen/)).toBeVisible();
  await expect(page.getByText(/was found changed in these days, and nobody logged it/)).toBeVisible();
  await page.goto('/sites/1/openings');
  await expect(page.getByText(/in a round that runs/).first()).toBeVisible();
});

test('drafts for a round come from a pattern', async ({ page, request }) => {
  await page.goto('/sites/1/wording/drafts?round=2');
  await page.getByLabel('Pattern').fill('{title} at its best');
  await page.getByRole('button', { name: 'Fill in all' }).click();
  await expect(page.getByRole('textbox', { name: /^Draft for/ }).first()).toHaveValue(/ at its best$/);
  const before = await (await request.get('/api/v1/rounds/2')).json();
  await page.goto('/sites/1/wording/drafts?round=2');
  await expect(page.getByRole('textbox', { name: /^Draft for/ }).first()).toHaveValue(/ at its best$/);
  await page.getByRole('button', { name: 'Begin from what is saved' }).click();
  await expect(page.getByRole('textbox', { name: /^Draft for/ }).first()).not.toHaveValue(/ at its best$/);
  await page
    .getByRole('textbox', { name: /^Draft for/ })
    .last()
    .fill('Another title for the last of them');
  await page.getByRole('button', { name: /with the round$/ }).click();
  await expect(page).toHaveURL(/rounds\/2\?view=work/);
  const after = await (await request.get('/api/v1/rounds/2')).json();
  expect(after.pages.at(-1).newText).toBe('Another title for the last of them');
  expect(after.pages.slice(0, -1)).toEqual(before.pages.slice(0, -1));
});

test('the scorebook says what each kind brought, as scripts are told', async ({ page, request }) => {
  const book = await (await request.get('/api/v1/sites/1/scorebook')).json();
  const read = book.items.reduce((sum: number, { changes }: { changes: number }) => sum + changes, 0);
  expect(read).toBeGreaterThanOrEqual(30);
  for (const { changes, lifted, dropped, held, unclear } of book.items)
    expect(lifted + dropped + held + unclear).toBe(changes);
  await page.goto('/sites/1/scorebook');
  await expect(page.getByText(book.items[0].sentence, { exact: true })).toBeVisible();
  // What did not move is drawn once it is asked for; each can be tried again.
  await page.getByText(/did not plainly move/).click();
  const unmoved = page.getByRole('list', { name: 'Changes that did not move' });
  await expect(unmoved.getByRole('link', { name: /^Try again/ }).first()).toHaveAttribute('href', /rework/);
  await page.getByRole('link', { name: 'person' }).click();
  await expect(page).toHaveURL(/by=person/);
  await expect(page.getByRole('rowheader', { name: /^IK/ }).first()).toBeVisible();
  const marks = await (await request.get('/api/v1/sites/1/scorebook?by=mark')).json();
  expect(marks.items.map(({ key }: { key: string }) => key)).toContain('shorter');
  expect((await request.get('/api/v1/sites/1/scorebook?by=colour')).status()).toBe(422);
  await page.goto('/sites/1/ledger/new');
  await expect(page.getByText(/^Title rewrites: \d+ read/)).toBeVisible();
});

test('a round is planned and begun by script', async ({ request }) => {
  const pages = ['/shop/mite-boards/', '/shop/queen-cages/', '/shop/nucleus-boxes/', '/calendar/august/'];
  const plan = await request.post('/api/v1/sites/1/rounds/plan', {
    data: { pages, kind: 'title-rewrite', effect: 0.12 },
  });
  expect(plan.status()).toBe(200);
  const { pages: good, pagesPerHalf, smallestEffect, days, leftOut } = await plan.json();
  expect({ good, days, leftOut }).toEqual({ good: 4, days: 28, leftOut: [] });
  expect(pagesPerHalf.map(({ effect }: { effect: number }) => effect)).toEqual([0.1, 0.12, 0.15, 0.2]);
  expect(smallestEffect.appeal).toBeGreaterThan(0);
  const begun = await request.post('/api/v1/sites/1/rounds', {
    data: { name: 'By script', kind: 'title-rewrite', pages, draw: 'halves', seed: 5 },
  });
  expect(begun.status()).toBe(201);
  const { id, seed, first, second } = await begun.json();
  expect({ seed, first: first.length, second: second.length }).toEqual({ seed: 5, first: 2, second: 2 });
  expect((await request.get(`/api/v1/rounds/${id}/reading`)).status()).toBe(409);
  const again = await request.post('/api/v1/sites/1/rounds', {
    data: { name: 'Twice', kind: 'title-rewrite', pages, draw: 'halves' },
  });
  expect(again.status()).toBe(422);
  const made = await request.post(`/api/v1/rounds/${id}/made`, {
    data: { half: 'first', day: '2026-11-20' },
  });
  expect((await made.json()).changes.first).toEqual(expect.any(Number));
  expect((await (await request.get(`/api/v1/rounds/${id}/reading`)).json()).verdict).toBe('waiting');
  await request.delete(
    `/api/v1/changes/${(await (await request.get(`/api/v1/rounds/${id}`)).json()).changes.first}`,
  );
  expect((await request.delete(`/api/v1/rounds/${id}`)).status()).toBe(204);
});
