import AxeBuilder from '@axe-core/playwright';
import type { APIRequestContext } from '@playwright/test';
import { changeId, EMPTY, expect, test } from './support';

// Screens are only looked at, so any server with the made-up site will do.
test.describe.configure({ mode: 'parallel' });

const VIEWS: [string, string][] = [
  ['the desk', '/sites/1/desk'],
  ['the ledger', '/sites/1/ledger'],
  ['a reading', 'reading'],
  ['the form for a change', '/sites/1/ledger/new'],
  ['openings', '/sites/1/openings'],
  ['pages', '/sites/1/pages'],
  ['queries', '/sites/1/queries'],
  ['queries, page by page', '/sites/1/queries?each=page&clicks.min=1'],
  ['a query', '/sites/1/queries/1'],
  ['wording', '/sites/1/wording'],
  ['a result page', '/sites/1/wording/25'],
  ['drafts for several pages', '/sites/1/wording/drafts?q=feed'],
  ['bringing results in', '/sites/1/wording/new?query=wax'],
  ['sheets', '/sites/1/sheets'],
  ['rounds', '/sites/1/rounds'],
  ['a round', '/sites/1/rounds/1'],
  ['the work on a round', '/sites/1/rounds/2?view=work'],
  ['a round as it was then', '/sites/1/rounds/1?view=then'],
  ['beginning a round', '/sites/1/rounds/new?openings=chosen-too-little'],
  ['the scorebook', '/sites/1/scorebook'],
  ['routines', '/sites/1/routines'],
  ['reports', '/sites/1/reports'],
  ['making a report', '/sites/1/reports/new'],
  ['a report', '/sites/1/reports/1'],
  ['a page', 'page'],
  ['groups', '/sites/1/groups'],
  ['the almanac', '/sites/1/almanac'],
  ['who moved across an event', '/sites/1/almanac/1'],
  ['intake', '/sites/1/intake'],
  ['a file brought in', '/sites/1/intake/1'],
  ['addresses', '/sites/1/addresses'],
  ['what was deleted', 'deleted'],
  ['settings', '/sites/1/settings'],
  ['adding a site', '/sites/new'],
  ['people', '/sites/1/people'],
  ['who did what', '/sites/1/people/deeds'],
  ['the first account', '/account'],
  ['an empty ledger', `${EMPTY}/sites/1/ledger`],
  ['nothing', '/sites/1/ledger/999999'],
];

/** The address of a view; those with numbers in them are looked up on the demo. */
async function addressOf(view: string, request: APIRequestContext): Promise<string> {
  if (view === 'reading')
    return `/sites/1/ledger/${await changeId(request, 'Shorter title on the smoker guide')}`;
  if (view === 'deleted') {
    const logged = await request.post('/api/v1/sites/1/changes', {
      data: { title: 'Not wanted after all', kind: 'other', day: '2026-09-14', pages: ['/guides/wasps/'] },
    });
    await request.delete(`/api/v1/changes/${((await logged.json()) as { id: number }).id}`);
    return '/sites/1/deleted';
  }
  if (view !== 'page') return view;
  const html = await (await request.get('/sites/1/pages?q=queen-excluders')).text();
  return /\/sites\/1\/pages\/\d+/.exec(html)![0];
}

const LEVELS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];

for (const [name, address] of VIEWS) {
  test(`${name}: WCAG 2.2 AA on paper and on slate, and fits its screen, also one 390 pixels wide`, async ({
    page,
    request,
  }) => {
    await page.emulateMedia({ colorScheme: 'light' });
    await page.goto(await addressOf(address, request));
    await expect(page.locator('#main')).toBeVisible();
    const refuse = async (axe: AxeBuilder) => {
      // Without frames, findings need not be put together on a page of their own. Further rows of a
      // table repeat the markup of the first ones.
      const { violations } = await axe.setLegacyMode(true).exclude('tbody tr:nth-child(n+9)').analyze();
      expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(', ')}`)).toEqual(
        [],
      );
    };
    await refuse(new AxeBuilder({ page }).withTags(LEVELS));
    // The rail stays: only its parts scroll, not the document.
    const beneath = () => page.evaluate(() => document.documentElement.scrollHeight - window.innerHeight);
    expect(await beneath()).toBeLessThanOrEqual(0);
    // The same document: on slate only its colours are others.
    const paper = await page.evaluate(() => getComputedStyle(document.body).backgroundColor);
    await page.emulateMedia({ colorScheme: 'dark' });
    expect(await page.evaluate(() => getComputedStyle(document.body).backgroundColor)).not.toBe(paper);
    await refuse(new AxeBuilder({ page }).withRules(['color-contrast']));
    await page.setViewportSize({ width: 390, height: 844 });
    const overflow = () => page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
    await expect.poll(overflow).toBeLessThanOrEqual(0);
  });
}

test('the look can be chosen and stays chosen', async ({ page }) => {
  await page.goto('/sites/1/ledger');
  await page.getByLabel('Look').selectOption('slate');
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'slate');
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'slate');
});

test('the whole job can be done by keyboard alone', async ({ page }) => {
  await page.goto('/sites/1/ledger');
  await page.keyboard.press('n');
  await expect(page.getByLabel('What was changed')).toBeFocused();
  await page.keyboard.type('By keyboard alone');
  await page.keyboard.press('Tab');
  await page.keyboard.type('wax-rend');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  // Past the page chosen, whose removal is a stop too, and what may be typed for one more.
  await page.getByRole('main').getByLabel('Kind').focus();
  await page.keyboard.type('Headings');
  await page.getByLabel('New text').focus();
  await page.keyboard.press('Tab');
  await page.getByRole('button', { name: 'Log the change' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'By keyboard alone' })).toBeVisible();
});
