import { changeId, expect, EMPTY, test } from './support';

test('two people edit one change: other fields stand, and of the same field both texts are shown to choose from', async ({
  page,
  context,
  request,
}) => {
  const site = await request.post('/api/v1/sites', {
    data: { name: 'Two', address: 'two.quillow-bees.example' },
  });
  const { id } = (await site.json()) as { id: number };
  const logged = await request.post(`/api/v1/sites/${id}/changes`, {
    data: { title: 'A change of two', kind: 'other', day: '2026-09-14', pages: ['/a/'], note: 'as it was' },
  });
  const change = (await logged.json()) as { id: number };
  const form = `/sites/${id}/ledger/${change.id}/edit`;
  const other = await context.newPage();
  await page.goto(form);
  await other.goto(form);
  await expect(other.getByLabel('Note')).toBeEnabled();

  await other.getByLabel('Note').fill('theirs');
  await other.getByLabel('Who').fill('MH');
  await other.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(other.getByText('Saved.', { exact: true })).toBeVisible();
  // A tab behind another is drawn once a second.
  await other.close();

  await page.getByLabel('What was changed').fill('Mine now');
  await page.getByLabel('Note').fill('mine');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  const choice = page.getByRole('group', { name: 'Note', exact: true });
  await expect(choice.getByText('theirs', { exact: true })).toBeVisible();
  await expect(choice.getByText('mine', { exact: true })).toBeVisible();
  const read = async () => (await request.get(`/api/v1/changes/${change.id}`)).json();
  expect(await read()).toMatchObject({ note: 'theirs', person: 'MH', title: 'A change of two' });
  // Nothing goes over it before somebody has chosen.
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Choose first what shall stand, above.')).toBeVisible();
  await choice.getByText('yours').click();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Mine now' })).toBeVisible();
  expect(await read()).toMatchObject({ note: 'mine', person: 'MH', title: 'Mine now' });
});

test('a save that fails says so beside the button, keeps everything, and can be tried again', async ({
  page,
  context,
  request,
}) => {
  const id = await changeId(request, 'Wick sizes as a table');
  await page.goto(`/sites/1/ledger/${id}/edit`);
  await page.getByLabel('Note').fill('typed on a train');
  await context.setOffline(true);
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(
    page.getByRole('alert').filter({ hasText: 'The server did not answer, so nothing was saved.' }),
  ).toBeVisible();
  await expect(page.getByLabel('Note')).toHaveValue('typed on a train');
  await context.setOffline(false);
  // Gone and come back, it is there still.
  await page.goto('/sites/1/desk');
  await page.goto(`/sites/1/ledger/${id}/edit`);
  await expect(page.getByLabel('Note')).toHaveValue('typed on a train');
  await expect(page.getByText(/and not saved\./)).toBeVisible();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Saved.', { exact: true })).toBeVisible();
  await page.goto(`/sites/1/ledger/${id}/edit`);
  await expect(page.getByText(/and not saved\./)).toHaveCount(0);
  await page.getByLabel('Note').fill('');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Saved.', { exact: true })).toBeVisible();
});

test('a change that was deleted elsewhere is not edited in silence, and what was typed is kept', async ({
  page,
  request,
}) => {
  const site = await request.post('/api/v1/sites', {
    data: { name: 'Gone', address: 'gone.quillow-bees.example' },
  });
  const { id } = (await site.json()) as { id: number };
  const logged = await request.post(`/api/v1/sites/${id}/changes`, {
    data: { title: 'Soon gone', kind: 'other', day: '2026-09-14', pages: ['/a/'] },
  });
  const change = (await logged.json()) as { id: number };
  await page.goto(`/sites/${id}/ledger/${change.id}/edit`);
  await page.getByLabel('Note').fill('written meanwhile');
  await request.delete(`/api/v1/changes/${change.id}`);
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(
    page.getByRole('alert').filter({ hasText: 'There is no such change any more.' }),
  ).toBeVisible();
  await expect(page.getByLabel('Note')).toHaveValue('written meanwhile');

  await page.goto(`/sites/${id}/deleted`);
  await expect(page.getByText('1 thing deleted in the last 30 days.')).toBeVisible();
  await page.getByRole('button', { name: 'Put Soon gone back' }).click();
  await expect(page.getByText('Nothing was deleted in the last 30 days.')).toBeVisible();
  await page.goto(`/sites/${id}/ledger/${change.id}/edit`);
  await expect(page.getByLabel('Note')).toHaveValue('written meanwhile');
});

test('two forms for new changes in two tabs are two drafts', async ({ page, context }) => {
  await page.goto('/sites/1/ledger/new');
  await page.getByLabel('What was changed').fill('In the first tab');
  const other = await context.newPage();
  await other.goto('/sites/1/ledger/new');
  await expect(other.getByLabel('What was changed')).toBeEnabled();
  await other.getByLabel('What was changed').fill('In the second tab');
  await other.close();
  await page.reload();
  await expect(page.getByLabel('What was changed')).toHaveValue('In the first tab');
  await expect(page.getByText('“In the second tab”')).toBeVisible();
  await page.getByRole('button', { name: 'Drop it' }).click();
  await page.getByRole('button', { name: 'Begin from what is saved' }).click();
  await expect(page.getByLabel('What was changed')).toHaveValue('');
});

test('settings and events keep what is typed, and what two people changed is told apart', async ({
  page,
  context,
  request,
}) => {
  const site = await request.post('/api/v1/sites', {
    data: { name: 'Shared', address: 'shared.quillow-bees.example' },
  });
  const { id } = (await site.json()) as { id: number };
  await page.goto(`/sites/${id}/settings`);
  const other = await context.newPage();
  await other.goto(`/sites/${id}/settings`);
  await expect(other.getByLabel('Settling days')).toBeEnabled();
  await other.getByLabel('Settling days').fill('7');
  await other.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(other.getByText('Saved.', { exact: false })).toBeVisible();
  await other.close();
  await page.getByLabel('Days in each span').fill('56');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Saved. Readings follow')).toBeVisible();
  await page.goto(`/sites/${id}/settings`);
  await expect(page.getByLabel('Settling days')).toHaveValue('7');
  await expect(page.getByLabel('Days in each span')).toHaveValue('56');

  await page.goto(`/sites/${id}/almanac`);
  await page.getByLabel('Name').fill('Half an event');
  await page.reload();
  await expect(page.getByLabel('Name')).toHaveValue('Half an event');
  await page.getByLabel('First day').fill('2026-09-14');
  await page.getByRole('button', { name: 'Note it' }).click();
  await expect(page.getByText('Half an event is in the almanac.')).toBeVisible();
  await expect(page.getByLabel('Name')).toHaveValue('');
});

test.describe('at full size', () => {
  test.use({ baseURL: EMPTY });

  test('a change on 2,000 pages with a text for each is edited in a screen of bounded size', async ({
    page,
    request,
  }) => {
    const site = await request.post('/api/v1/sites', {
      data: { name: 'Large', address: 'large.quillow-bees.example' },
    });
    const { id } = (await site.json()) as { id: number };
    const pages = Array.from({ length: 2000 }, (_, i) => `/p${i}/`);
    const parts = pages.map((at, i) => ({
      kind: 'title-rewrite',
      page: at,
      oldText: `old ${i}`,
      newText: `new ${i}`,
    }));
    const logged = await request.post(`/api/v1/sites/${id}/changes`, {
      data: { title: 'Many at once', kind: 'title-rewrite', day: '2026-09-14', pages, parts },
    });
    const change = (await logged.json()) as { id: number };
    const sizes = await Promise.all(
      ['', '/edit'].map(
        async (end) => (await (await request.get(`/sites/${id}/ledger/${change.id}${end}`)).body()).length,
      ),
    );
    for (const size of sizes) expect(size).toBeLessThan(4_000_000);
    await page.goto(`/sites/${id}/ledger/${change.id}/edit`);
    await page.getByLabel('Note').fill('one word');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await expect(page.getByText('Saved.', { exact: true })).toBeVisible();
    const after = (await (await request.get(`/api/v1/changes/${change.id}`)).json()) as {
      parts: object[];
      note: string;
    };
    expect([after.parts.length, after.note]).toEqual([2000, 'one word']);
  });
});

test('of two who edit a report, other fields stand, and of the same field the later chooses', async ({
  page,
  context,
  request,
}) => {
  const made = await request.post('/api/v1/sites/1/reports', {
    data: { title: 'A report of two', from: '2026-10-01', to: '2026-10-31' },
  });
  const { id } = (await made.json()) as { id: number };
  const form = `/sites/1/reports/${id}/edit`;
  const other = await context.newPage();
  await page.goto(form);
  await other.goto(form);
  await other.getByLabel('Title').fill('Theirs');
  await other.getByLabel('To', { exact: true }).fill('2026-10-30');
  await other.getByRole('button', { name: 'Keep it' }).click();
  await expect(other.getByText('The report is kept.')).toBeVisible();
  await other.close();
  await page.getByLabel('Title').fill('Mine');
  await page.getByRole('button', { name: 'Keep it' }).click();
  const choice = page.getByRole('group', { name: 'Title', exact: true });
  await expect(choice.getByText('Theirs', { exact: true })).toBeVisible();
  await choice.getByText('yours').click();
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('The report is kept.')).toBeVisible();
  const now = (await (await request.get(`/api/v1/reports/${id}`)).json()) as object;
  expect(now).toMatchObject({ title: 'Mine', to: '2026-10-30' });
  await request.delete(`/api/v1/reports/${id}`);
});
