import { createHash } from 'node:crypto';
import { copyFileSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { APIRequestContext } from '@playwright/test';
import { strFromU8, unzipSync } from 'fflate';
import { OwnServer } from '../e2e/ownServer';
import { DEMO, expect, test } from '../e2e/support';

const own = new OwnServer('3419');
const { run, stop, answers, home } = own;
test.beforeEach(() => own.begin());
test.afterEach(() => own.end());

/** All that an archive holds but the time at which it was made. */
const sealed = (zip: Uint8Array) =>
  Object.entries(unzipSync(zip)).map(([name, bytes]) =>
    name === 'manifest.json'
      ? strFromU8(bytes).replace(/"madeAt": "[^"]*"/, '')
      : `${name} ${createHash('sha256').update(bytes).digest('hex')}`,
  );

test('a site is saved in one installation, brought in by another, and reads the same there', async ({
  page,
  request,
}) => {
  await page.goto('/sites/1/settings');
  const saved = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Save all of it' }).click();
  const download = await saved;
  expect(download.suggestedFilename()).toBe('www.quillow-bees.example.zip');
  const file = path.join(own.dir, 'saved.zip');
  copyFileSync(await download.path(), file);

  await run('build/server.mjs', answers);
  await page.goto(`${home}/sites/new`);
  await page.getByLabel('A saved site').setInputFiles({
    ...{ name: 'rubbish.zip', mimeType: 'application/zip', buffer: Buffer.from('no archive') },
  });
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await expect(page.getByText('This is no archive of a site')).toBeVisible();
  await page.getByLabel('A saved site').setInputFiles(file);
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await expect(page.getByText(/^All of it is here, [\d,]+ rows/)).toBeVisible();
  await page.getByRole('link', { name: 'To its ledger' }).click();
  await expect(page.getByText('Shorter title on the smoker guide').first()).toBeVisible();

  const [there] = (await (await request.get(`${home}/api/v1/sites`)).json()) as { id: number }[];
  type Listed = { id: number; title: string }[];
  const listOf = async (at: string, site: number) =>
    (await (await request.get(`${at}/api/v1/sites/${site}/changes`)).json()) as Listed;
  const before = await listOf(DEMO, 1);
  const after = await listOf(home, there!.id);
  expect(after.map(({ title }) => title)).toEqual(before.map(({ title }) => title));
  for (const [i, { id }] of before.entries()) {
    if (i % 7 !== 0) continue;
    const reading = async (at: string, change: number) => {
      const { net, verdict, spans } = (await (
        await request.get(`${at}/api/v1/changes/${change}/reading`)
      ).json()) as never;
      return { net, verdict, spans } as object;
    };
    expect(await reading(home, after[i]!.id)).toEqual(await reading(DEMO, id));
  }

  const again = await request.get(`${home}/api/v1/sites/${there!.id}/export`);
  expect(again.headers()['content-type']).toBe('application/zip');
  expect(sealed(await again.body())).toEqual(sealed(readFileSync(file)));
  const twice = await request.post(`${home}/api/v1/sites/import`, {
    ...{ headers: { 'Content-Type': 'application/zip' }, data: readFileSync(file) },
  });
  expect(twice.status()).toBe(422);
  expect(((await twice.json()) as { detail: string }).detail).toContain('already');

  // Deleted it is as if it had never been, and put back it is as it was.
  await page.goto(`${home}/sites/${there!.id}/settings`);
  await expect(page.getByText(/^With it go \d+ changes, .* rows\)\. For 30 days/)).toBeVisible();
  await page.getByText('Delete it …').click();
  await page.getByRole('button', { name: 'Delete Quillow Bee Yard with all that it has' }).click();
  await expect(page.getByRole('heading', { name: 'Deleted sites' })).toBeVisible();
  expect(await (await request.get(`${home}/api/v1/sites`)).json()).toEqual([]);
  for (const gone of [`sites/${there!.id}`, `sites/${there!.id}/changes`, `changes/${after[0]!.id}`])
    expect([gone, (await request.get(`${home}/api/v1/${gone}`)).status()]).toEqual([gone, 404]);
  await page.reload();
  await page.getByRole('button', { name: 'Put back Quillow Bee Yard' }).click();
  await expect(page.getByText('Shorter title on the smoker guide').first()).toBeVisible();
  expect(sealed(await (await request.get(`${home}/api/v1/sites/${there!.id}/export`)).body())).toEqual(
    sealed(readFileSync(file)),
  );
});

test('by command: out while the server runs, in where none does, and begun again where it was killed', async ({
  request,
}) => {
  const file = path.join(own.dir, 'saved.zip');
  writeFileSync(file, await (await request.get(`${DEMO}/api/v1/sites/1/export`)).body());
  const { printed, code } = await run('build/import-site.mjs', undefined, {}, [file]);
  expect(printed).toMatch(/The site is here under the number 1: [\d,]+ rows in/);
  expect(code).toBe(0);
  expect((await run('build/import-site.mjs', undefined, {}, [file])).printed).toContain('There is a site at');

  await run('build/server.mjs', answers);
  const server = own.running;
  expect((await run('build/import-site.mjs', undefined, {}, [file])).printed).toContain('is in use');
  const out = `${own.dir}-again.zip`;
  expect((await run('build/export-site.mjs', undefined, {}, [out])).printed).toMatch(
    /holds the site: [\d,]+ rows/,
  );
  expect(sealed(readFileSync(out))).toEqual(sealed(readFileSync(file)));
  rmSync(out);
  own.running = server;
  await stop('SIGTERM');

  // Into a folder of nothing, killed in the middle and started again.
  await own.end();
  own.begin();
  await run('build/server.mjs', answers);
  const sent = await request.post(`${home}/api/v1/sites/import`, {
    ...{ headers: { 'Content-Type': 'application/zip' }, data: readFileSync(await kept(request)) },
  });
  expect(sent.status()).toBe(202);
  const { id } = (await sent.json()) as { id: number };
  const stateOf = async () =>
    (await (await request.get(`${home}/api/v1/sites/import?id=${id}`)).json()) as {
      state: string;
      rowsRead: number;
      siteId: number;
    };
  await expect.poll(async () => (await stateOf()).rowsRead, { intervals: [20] }).toBeGreaterThan(0);
  expect(await (await request.get(`${home}/api/v1/sites`)).json()).toEqual([]);
  await stop('SIGKILL');
  await run('build/server.mjs', answers);
  await expect.poll(async () => (await stateOf()).state).toBe('done');
  const { siteId } = await stateOf();
  const again = await (await request.get(`${home}/api/v1/sites/${siteId}/export`)).body();
  expect(sealed(again)).toEqual(sealed(await (await request.get(`${DEMO}/api/v1/sites/1/export`)).body()));
});

/** The demo's archive in a file of the folder as it is now. */
async function kept(request: APIRequestContext): Promise<string> {
  const file = path.join(own.dir, 'demo.zip');
  writeFileSync(file, await (await request.get(`${DEMO}/api/v1/sites/1/export`)).body());
  return file;
}
