import { EMPTY, expect, test } from './support';

const OWN = 'https://www.quillow-bees.example/guides/winter-feeding/';
const NEW = 'Winter feeding for bees: fondant, syrup and when to stop';

test('one reworded title leads from the opening to the reading', async ({ page, request }) => {
  // Where would work pay? On a page that is chosen too little.
  await page.goto('/sites/1/openings?kind=chosen-too-little');
  await page
    .getByRole('link', { name: /winter-feeding/ })
    .first()
    .click();
  await page.getByRole('link', { name: 'See how the results word it' }).click();

  // What do the others say that it does not?
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('“winter feeding bees”');
  await expect(page.getByText(/of the ten say “\w+”.*which yours does not/)).toBeVisible();
  await expect(
    page.getByRole('listitem').filter({ hasText: 'Winter feeding for bees' }).first(),
  ).toContainText('own');
  const drafts = page.getByRole('region', { name: 'Drafts' });
  await expect(async () => {
    await drafts.getByRole('button', { name: 'Begin a draft' }).click();
    await expect(drafts.getByLabel('Draft A of the title')).toBeVisible({ timeout: 3000 });
  }).toPass();
  await drafts.getByLabel('Draft A of the title').fill(NEW);
  const draft = drafts.getByRole('article', { name: 'draft A' });
  await expect(draft).toContainText(`${NEW.length} characters`);
  await expect(draft).toContainText('says what no other says: stop');
  await expect(draft).toContainText('the query in front');

  // The draft is taken: a planned change with both texts, the query and what is expected.
  await draft.getByRole('link', { name: 'Take this draft' }).click();
  await expect(page.getByLabel('New text')).toHaveValue(NEW);
  await expect(page.getByLabel('Old text')).toHaveValue('Winter feeding for bees');
  await expect(async () => {
    await page.getByRole('button', { name: 'Log the change' }).click();
    await expect(page).toHaveURL(/ledger\/\d+$/, { timeout: 6000 });
  }).toPass();
  const id = /ledger\/(\d+)/.exec(page.url())![1]!;
  const logged = await (await request.get(`/api/v1/changes/${id}`)).json();
  expect(logged).toMatchObject({
    ...{ planned: true, kind: 'title-rewrite', newText: NEW, queries: ['winter feeding bees'] },
    expectation: { metric: 'appeal', direction: 'up' },
  });

  // It is made, and a look at the results shows the new title: its step is recorded by that.
  await request.post(`/api/v1/changes/${id}/steps`, { data: { step: 'made', day: '2026-11-20' } });
  await page.goto('/sites/1/wording/new?query=winter+feeding+bees');
  await page.getByLabel('Day').fill('2026-11-24');
  await page
    .getByLabel('Results, pasted')
    .fill(
      `Feeding Bees in Winter\nhttps://apiary-post.example/feeding\nOf fondant.\n\n${NEW}\n${OWN}\nFrom the yard.`,
    );
  await expect(async () => {
    await page.getByRole('button', { name: 'Read what is pasted' }).click();
    await expect(page.getByLabel('Title of result 2')).toHaveValue(NEW, { timeout: 3000 });
  }).toPass();
  await page.getByRole('button', { name: 'Keep these 2 results' }).click();
  await expect(page).toHaveURL(/\/wording\/\d+$/);
  await expect(page.getByText('your page at 2')).toBeVisible();
  const resultPage = /wording\/(\d+)/.exec(page.url())![1]!;
  expect(await (await request.get(`/api/v1/changes/${id}`)).json()).toMatchObject({
    steps: { 'seen-in-results': '2026-11-24' },
  });

  // The reading waits for its days, and says since when the results show it.
  await page.goto(`/sites/1/ledger/${id}`);
  await expect(page.getByText('Too soon to compare anything.')).toBeVisible();
  await request.delete(`/api/v1/changes/${id}`);
  await request.delete(`/api/v1/result-pages/${resultPage}`);
});

test('a change whose results showed the new title is read beside what else happened on them', async ({
  page,
  request,
}) => {
  const { items } = await (
    await request.get('/api/v1/sites/1/result-pages', { params: { query: 'bee smoker' } })
  ).json();
  expect(items).toHaveLength(3);
  const compared = await (await request.get(`/api/v1/result-pages/${items[1].id}/comparison`)).json();
  expect(
    compared.stayed.find(
      ({ titleAfter }: { titleAfter: string }) => titleAfter === 'Light a bee smoker that stays lit',
    ),
  ).toMatchObject({
    retitled: true,
    titleBefore: 'How to light a bee smoker properly and how to keep it going for longer',
  });
  await page.goto(`/sites/1/wording/${items[1].id}`);
  await expect(page.getByText('was: How to light a bee smoker properly')).toBeVisible();
  await page.getByRole('link', { name: 'The query’s screen' }).click();
  await expect(page.getByText(/the results show “Light a bee smoker that stays lit”/)).toBeVisible();
});

test('a term is left out for the whole site, and counts again by Undo', async ({ page }) => {
  await page.goto('/sites/1/wording');
  await page.getByRole('link', { name: 'winter feeding bees' }).click();
  const terms = page.getByRole('listitem').filter({ hasText: 'leave out' });
  const first = terms.filter({ hasText: 'fondant' }).first();
  await first.getByRole('button', { name: 'leave out' }).click();
  await expect(page.getByText(/Left out: fondant/)).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/Left out: fondant/)).toBeHidden();
});

test('the source is asked for a search, and the pages of its results are fetched once it is wanted', async ({
  page,
  request,
}) => {
  await page.goto('/sites/1/wording');
  await page.getByLabel('Query to look up').fill('moving a beehive');
  await page.getByRole('button', { name: 'Look it up' }).click();
  await expect(page).toHaveURL(/\/wording\/\d+$/);
  const id = /wording\/(\d+)/.exec(page.url())![1]!;
  await page.getByRole('button', { name: 'Fetch their pages' }).click();
  await expect(page.getByText(/Half of them have \d+ words or more/)).toBeVisible();
  await page.goto('/sites/1/wording');
  await page.getByLabel('Query to look up').fill('nobody knows this one');
  await page.getByRole('button', { name: 'Look it up' }).click();
  await expect(
    page.getByText('The simulated source knows no results for “nobody knows this one”.'),
  ).toBeVisible();
  await request.delete(`/api/v1/result-pages/${id}`);
});

test('pasted rubbish, a page of another kind, and markup in titles are refused or handled, and nothing runs', async ({
  page,
  request,
}) => {
  const site = await (
    await request.post(`${EMPTY}/api/v1/sites`, {
      data: { name: 'Wording', address: 'wording.quillow-bees.example' },
    })
  ).json();
  await page.goto(`${EMPTY}/sites/${site.id}/wording/new?query=wax`);
  const paste = async (text: string) => {
    await page.getByLabel('Results, pasted').fill(text);
    await page.getByRole('button', { name: 'Read what is pasted' }).click();
  };
  await expect(async () => {
    await paste('Dear all, here is the plan for the week.');
    await expect(page.getByText(/cannot be told where a result begins/)).toBeVisible({ timeout: 3000 });
  }).toPass();
  await paste('<!doctype html><title>Shop</title><h1>Wax</h1><p>Only text.</p>');
  await expect(page.getByText(/does not look like a page of results/)).toBeVisible();
  await paste(
    `<h3><a href="https://a.example/">&lt;img src=x onerror="document.title='hurt'"&gt; 🐝</a></h3><p>One</p>
     <h3><a href="https://b.example/">تغذية النحل في الشتاء</a></h3><h3><a href="https://c.example/">冬のミツバチの給餌</a></h3>`,
  );
  await expect(page.getByLabel('Title of result 1')).toHaveValue(/^<img src=x/);
  await page.getByRole('button', { name: 'Down: result 1' }).click();
  await page.getByRole('button', { name: 'Drop: result 1' }).click();
  await page.getByRole('button', { name: 'Keep these 2 results' }).click();
  await expect(page).toHaveURL(/\/wording\/\d+$/);
  await expect(page.getByText('<img src=x', { exact: false }).first()).toBeVisible();
  await expect(page.getByText('冬のミツバチの給餌')).toBeVisible();
  expect(await page.title()).not.toContain('hurt');
  const refused = await request.post(`${EMPTY}/api/v1/sites/${site.id}/result-pages`, {
    data: {
      ...{ query: 'wax', day: '2026-11-20' },
      results: Array.from({ length: 500 }, (_, i) => ({
        rank: i + 1,
        address: 'https://a.example/',
        title: 'T',
      })),
    },
  });
  expect(refused.status()).toBe(422);
  expect(JSON.stringify(await refused.json())).toContain('At most 100 results');
});

test('titles of several pages are drafted in one table by a pattern, and planned as one change', async ({
  page,
  request,
}) => {
  await page.goto('/sites/1/wording/drafts');
  await page
    .getByLabel('Pages, one a line; a draft after a tab')
    .fill('/guides/wasps\tWasps at the hive: what helps\n/guides/queen-excluders/\n/no/such/page');
  await page.getByRole('button', { name: 'Show them' }).click();
  await expect(page.getByText('1 line names no page of this site: /no/such/page.')).toBeVisible();
  await expect(page.getByLabel('Draft for /guides/wasps/')).toHaveValue('Wasps at the hive: what helps');
  await page.getByLabel('Pattern').fill('{targt}');
  await expect(async () => {
    await page.getByRole('button', { name: 'Fill in empty drafts' }).click();
    await expect(page.getByText(/There is no \{targt\}/)).toBeVisible({ timeout: 3000 });
  }).toPass();
  await page.getByLabel('Pattern').fill('{target}: {what} ({year})');
  await page.getByLabel('{what}').fill('when and how much');
  await page.getByRole('button', { name: 'Fill in empty drafts' }).click();
  await expect(page.getByLabel('Draft for /guides/queen-excluders/')).toHaveValue(
    'Queen excluders, and when to do without: when and how much (2026)',
  );
  await page.getByRole('button', { name: 'Plan 2 titles' }).click();
  await expect(page).toHaveURL(/ledger\/\d+$/);
  const id = /ledger\/(\d+)/.exec(page.url())![1]!;
  const change = await (await request.get(`/api/v1/changes/${id}`)).json();
  expect(change).toMatchObject({ planned: true, kind: 'title-rewrite' });
  expect(change.parts.map(({ newText }: { newText: string }) => newText)).toEqual([
    'Wasps at the hive: what helps',
    'Queen excluders, and when to do without: when and how much (2026)',
  ]);
  await request.delete(`/api/v1/changes/${id}`);
});
