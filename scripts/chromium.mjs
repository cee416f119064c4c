// Where Chromium is, and how it is started for tests and pictures.
import { existsSync } from 'node:fs';

const USUAL_PLACES = ['/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'];

/** CHROMIUM_PATH, or the first usual place that holds one, or null. */
export function chromiumPath() {
  const places = process.env.CHROMIUM_PATH ? [process.env.CHROMIUM_PATH] : USUAL_PLACES;
  return places.find((place) => existsSync(place)) ?? null;
}

export const CHROMIUM_ARGS = ['--no-sandbox', '--disable-gpu', '--disable-background-networking'];
