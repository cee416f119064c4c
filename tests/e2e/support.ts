import { test as base, expect, type APIRequestContext, type Page } from '@playwright/test';

export { expect };
import { DEMO } from '../../playwright.config';

export { DATA, DEMO, EMPTY, TODAY } from '../../playwright.config';

/** Every test also fails on an error in the browser's console, a violated content policy among them. */
export const test = base.extend<{ quiet: void }>({
  baseURL: DEMO,
  quiet: [
    async ({ page }, use) => {
      awaitLife(page);
      const errors: string[] = [];
      page.on('console', (message) => message.type() === 'error' && errors.push(message.text()));
      page.on('pageerror', (error) => errors.push(error.message));
      await use();
      // Resources that the test asked for and that are rightly refused are not the page's fault.
      expect(errors.filter((text) => !/Failed to load resource/.test(text))).toEqual([]);
    },
    { auto: true },
  ],
});

/** Makes `goto` wait until the controls of a screen answer, which is a moment after they are drawn. */
export function awaitLife(page: Page): void {
  const goto = page.goto.bind(page);
  page.goto = async (...args) => {
    const response = await goto(...args);
    await page.waitForFunction(() =>
      [...document.querySelectorAll('input, select, button, textarea')].every((control) =>
        Object.keys(control).some((key) => key.startsWith('__reactProps')),
      ),
    );
    return response;
  };
}

/** The id of the change of this title on the demo. */
export async function changeId(request: APIRequestContext, title: string): Promise<number> {
  const changes = (await (await request.get('/api/v1/sites/1/changes')).json()) as {
    id: number;
    title: string;
  }[];
  return changes.find((change) => change.title === title)!.id;
}

/** Waits for an import to end and gives its answer. */
export async function importDone(request: APIRequestContext, url: string): Promise<Record<string, unknown>> {
  let answer: Record<string, unknown> = {};
  await expect
    .poll(
      async () => {
        answer = (await (await request.get(url)).json()) as Record<string, unknown>;
        return answer.state;
      },
      { timeout: 180_000 },
    )
    .toMatch(/done|failed/);
  return answer;
}

/** The cells of a table's row by the name of its first cell. */
export async function cells(page: Page, rowName: string): Promise<string[]> {
  const row = page.getByRole('row').filter({ has: page.getByRole('rowheader', { name: rowName }) });
  return (await row.getByRole('cell').allInnerTexts()).map((text) => text.trim());
}

/** A CSV of daily page totals: the same figures each day, another number of clicks from `from` on. */
export function dailyCsv(
  path: string,
  first: string,
  days: number,
  from: string,
  clicks: [number, number],
): string {
  const lines = ['date,page,clicks,impressions,position'];
  for (let i = 0; i < days; i++) {
    const date = new Date(Date.parse(first) + i * 86_400_000).toISOString().slice(0, 10);
    lines.push(`${date},${path},${date < from ? clicks[0] : clicks[1]},200,5.5`);
  }
  return lines.join('\n');
}
