// Where Chromium is, and how it is started for tests and pictures.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';

// The headless shell draws the same and takes half the processor time.
const HEADLESS_SHELL = '/usr/bin/chromium-headless-shell';
const USUAL_PLACES = [
  HEADLESS_SHELL,
  '/usr/bin/chromium',
  '/usr/bin/chromium-browser',
  '/usr/bin/google-chrome',
];

/** CHROMIUM_PATH, or the first usual place that holds one, or null. */
export function chromiumPath() {
  const places = process.env.CHROMIUM_PATH ? [process.env.CHROMIUM_PATH] : USUAL_PLACES;
  return places.find((place) => existsSync(place)) ?? null;
}

/** Makes sure that there is Chromium, installing it with Debian's packages where that is possible. */
export function ensureChromium() {
  const mayInstall = process.getuid?.() === 0 && existsSync('/usr/bin/apt-get');
  if (mayInstall && !process.env.CHROMIUM_PATH && !existsSync(HEADLESS_SHELL)) {
    console.log('Installing Chromium …');
    spawnSync('apt-get', ['update', '-qq'], { stdio: 'inherit' });
    const install = ['install', '-y', '-qq', '--no-install-recommends'];
    const names = chromiumPath() ? ['chromium-headless-shell'] : ['chromium-headless-shell', 'chromium'];
    for (const name of names)
      if (spawnSync('apt-get', [...install, name], { stdio: 'inherit' }).status === 0) break;
  }
  if (chromiumPath()) return true;
  console.error(
    'The browser tests need Chromium: install it (Debian: apt-get install chromium-headless-shell), or name it in CHROMIUM_PATH.',
  );
  return false;
}

export const CHROMIUM_ARGS = ['--no-sandbox', '--disable-gpu', '--disable-background-networking'];
