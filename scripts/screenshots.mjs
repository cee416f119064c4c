// Takes the pictures in docs/screenshots from the demo on a fixed day, so that they change only when the views do.
import { spawn } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import path from 'node:path';
import { chromium } from '@playwright/test';
import { CHROMIUM_ARGS, chromiumPath } from './chromium.mjs';
import { ready } from './ready.mjs';
import { root } from './stamp.mjs';

await ready();
process.chdir(root);
const PORT = '3413';
const home = `http://127.0.0.1:${PORT}`;
const out = path.join('docs', 'screenshots');
mkdirSync(out, { recursive: true });

const server = spawn(process.execPath, ['tests/e2e/serve.mjs', 'demo'], {
  env: { ...process.env, PORT, TALLY_TODAY: '2026-11-24' },
  stdio: 'inherit',
});
for (let tries = 0; ; tries++) {
  const up = await fetch(`${home}/api/v1/sites`)
    .then((answer) => answer.ok)
    .catch(() => false);
  if (up) break;
  if (tries > 150) throw new Error('The server did not answer.');
  await new Promise((resolve) => setTimeout(resolve, 200));
}
await fetch(`${home}/api/v1/sites/1/changes`, {
  method: 'POST',
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify({
    title: 'Feeder title says frost proof',
    kind: 'title-rewrite',
    day: '2026-12-01',
    pages: ['/guides/winter-feeding/'],
    person: 'IK',
    oldText: 'Winter feeding of bees',
    newText: 'Winter feeding: a frost-proof feeder, step by step',
    expectation: { metric: 'ctr', amount: 0.2, reviewDay: '2027-01-01' },
  }),
});
const changes = await (await fetch(`${home}/api/v1/sites/1/changes`)).json();
const reading = (title) => `/sites/1/ledger/${changes.find((change) => change.title === title).id}`;

const CSV = [
  'Day;URL;Search term;Device;Clicks;Impr.;CTR;Avg. position',
  '03/09/2026;https://www.quillow-bees.example/guides/frame-sizes/;hive frame sizes;mobile;12;340;3,5%;4,2',
  '04/09/2026;http://quillow-bees.example/guides/frame-sizes/;hive frame sizes;mobile;9;310;2,9%;4,4',
  '05/09/2026;https://www.other-yard.example/guides/;frames;desktop;1;10;10%;7',
  '06/09/2026;/guides/frame-sizes/;hive frame sizes;desktop;50;31;160%;4,1',
].join('\n');

const browser = await chromium.launch({ executablePath: chromiumPath(), args: CHROMIUM_ARGS });

async function shoot(name, address, { width = 1280, height = 800, colorScheme = 'light', act } = {}) {
  const page = await browser.newPage({ viewport: { width, height }, colorScheme, locale: 'en-GB' });
  await page.goto(home + address, { waitUntil: 'load' });
  await act?.(page);
  await page.waitForTimeout(700);
  await page.screenshot({ path: path.join(out, `${name}.png`) });
  await page.close();
}

const uploadAs = async (page, name, text) => {
  await page.setInputFiles('input[type=file]', { name, mimeType: 'text/csv', buffer: Buffer.from(text) });
  await page.getByText('What each column holds').waitFor();
};
const upload = (page) => uploadAs(page, 'september.csv', CSV);
const VISITS = [
  'date,landing page,sessions,engaged sessions,conversions,revenue',
  '2026-09-03,/guides/frame-sizes/,84,61,2,48.50',
  '2026-09-03,/guides/smoker-fuel/,31,20,0,0',
  '2026-09-03,/Guides/Wasps/index.html,12,7,1,19.00',
  '2026-09-03,/shop/fondant,40,28,6,131.40',
  '2026-09-03,/offers/winter,9,2,0,0',
].join('\n');
const showJoins = async (page) => {
  await page.getByLabel('Slash at the end').selectOption('with');
  await page.getByRole('button', { name: 'Show what this joins' }).click();
  await page.getByText('pages become').waitFor();
};
const fillForm = async (page) => {
  await page.getByLabel('What was changed').fill('Fondant title says how much a hive needs');
  await page.getByLabel('Pages').fill('fond');
  await page
    .getByRole('listbox')
    .getByRole('option', { name: /^\/shop\/fondant\// })
    .waitFor();
};

/** Makes a first account, has two people come in, and shows who may do what. */
async function workTogether(page) {
  const password = 'quiet smoker on the hill';
  const fill = async (on, fields) => {
    for (const [label, text] of Object.entries(fields))
      await on.getByLabel(label, { exact: true }).fill(text);
  };
  await fill(page, {
    'E-mail': 'mk@quillow-bees.example',
    'What you are called here': 'MK',
    Password: password,
  });
  await page.getByRole('button', { name: 'Make the first account' }).click();
  await page.getByRole('heading', { name: 'Where you are signed in' }).waitFor();
  for (const [who, role] of [
    ['IK', 'editor'],
    ['RV', 'reader'],
  ]) {
    await page.goto(`${home}/sites/1/people`);
    await fill(page, { 'Invite by e-mail': `${who.toLowerCase()}@quillow-bees.example` });
    await page.getByLabel('As', { exact: true }).selectOption(role);
    await page.getByRole('button', { name: 'Make the invitation' }).click();
    const link = await page.locator('code', { hasText: '/pass/' }).innerText();
    const other = await browser.newPage();
    await other.goto(link);
    await fill(other, { 'What you are called here': who, Password: password });
    await other.getByRole('button', { name: 'Come in' }).click();
    await other.waitForURL('**/desk');
    await other.close();
  }
  await page.goto(`${home}/sites/1/reports/1`);
  await page.getByText('Read-only link', { exact: true }).click();
  await page.getByRole('button', { name: 'Make the link' }).click();
  await page.locator('#share code').waitFor();
  await page.goto(`${home}/sites/1/people`);
  await fill(page, { 'What it is for': 'release script' });
  await page.getByRole('button', { name: 'Make the token' }).click();
  await page.locator('code', { hasText: /^tally_.{30}/ }).waitFor();
  await page.reload();
}

async function queryId(text) {
  const found = await (
    await fetch(`${home}/api/v1/sites/1/queries?limit=5&q=${encodeURIComponent(text)}`)
  ).json();
  return found.items.find(({ query }) => query === text).queryId;
}

async function bringIn(text) {
  const send = { method: 'POST', headers: { 'Content-Type': 'text/csv' }, body: text };
  const { id } = await (
    await fetch(`${home}/api/v1/sites/1/imports?fileName=landing+pages.csv`, send)
  ).json();
  for (let state = ''; state !== 'done';) {
    ({ state } = await (await fetch(`${home}/api/v1/imports/${id}`)).json());
    if (state === 'failed') throw new Error('The file for the picture was refused.');
  }
}

try {
  await shoot('desk', '/sites/1/desk');
  await shoot('ledger', reading('Shorter title on the smoker guide'));
  await shoot('ledger-slate', reading('Extraction guide rewritten'), { colorScheme: 'dark' });
  await shoot('groups', '/sites/1/groups');
  await shoot('ledger-narrow', reading('Shorter title on the smoker guide'), { width: 390, height: 844 });
  await shoot('log-a-change', '/sites/1/ledger/new', { act: fillForm });
  await shoot('openings', '/sites/1/openings');
  await shoot('round', '/sites/1/rounds/1');
  await shoot('scorebook', '/sites/1/scorebook');
  await shoot(
    'queries',
    '/sites/1/queries?position.min=5.01&position.max=20.99&clicks.min=1&sort=-impressions',
  );
  await shoot('query', `/sites/1/queries/${await queryId('splitting a hive')}`);
  await shoot('page', '/sites/1/pages?q=queen-excluders', {
    act: async (page) => {
      await page.getByRole('link', { name: '/guides/queen-excluders/', exact: true }).click();
      await page.getByRole('heading', { name: 'What it says' }).waitFor();
    },
  });
  await shoot('wording', '/sites/1/wording', {
    act: async (page) => {
      await page.getByRole('link', { name: 'winter feeding bees' }).click();
      await page.getByRole('button', { name: 'Begin a draft' }).click();
      await page
        .getByLabel('Draft A of the title')
        .fill('Feeding bees in winter: when to give fondant or sugar');
      await page.getByText('says what no other says').waitFor();
    },
  });
  await shoot('almanac', '/sites/1/almanac');
  await shoot('report', '/sites/1/reports/1?issue=1');
  await shoot('intake', '/sites/1/intake');
  await shoot('intake-preview', '/sites/1/intake', { act: upload });
  // Brings pages of its own, so it comes after the pictures of all others.
  await bringIn(VISITS);
  await shoot('addresses', '/sites/1/addresses', { act: showJoins });
  // From here on everybody signs in.
  await shoot('people', '/account', { act: workTogether });
} finally {
  await browser.close();
  server.kill();
}
