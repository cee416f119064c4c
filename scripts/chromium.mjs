// Where Chromium is, and how it is started for tests and pictures.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';

const USUAL_PLACES = ['/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'];

/** CHROMIUM_PATH, or the first usual place that holds one, or null. */
export function chromiumPath() {
  const places = process.env.CHROMIUM_PATH ? [process.env.CHROMIUM_PATH] : USUAL_PLACES;
  return places.find((place) => existsSync(place)) ?? null;
}

/** Makes sure that there is Chromium, installing it with Debian's packages where that is possible. */
export function ensureChromium() {
  if (chromiumPath()) return true;
  const mayInstall = process.getuid?.() === 0 && existsSync('/usr/bin/apt-get');
  if (mayInstall) {
    console.log('Installing Chromium …');
    spawnSync('apt-get', ['update', '-qq'], { stdio: 'inherit' });
    spawnSync('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'chromium'], {
      stdio: 'inherit',
    });
  }
  if (chromiumPath()) return true;
  console.error(
    'The browser tests need Chromium: install it (Debian: apt-get install chromium), or name it in CHROMIUM_PATH.',
  );
  return false;
}

export const CHROMIUM_ARGS = ['--no-sandbox', '--disable-gpu', '--disable-background-networking'];
