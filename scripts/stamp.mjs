// Tells whether what was installed and built still fits the sources.
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');

const BUILT_FROM = [
  'src',
  'package-lock.json',
  'next.config.ts',
  'postcss.config.mjs',
  'tsconfig.json',
  'scripts/build.mjs',
];

function addTo(hash, entry) {
  const full = path.join(root, entry);
  if (!existsSync(full)) return;
  const inside = readdirSync(path.dirname(full), { withFileTypes: true }).find(
    (e) => e.name === path.basename(full),
  );
  if (inside?.isDirectory()) {
    for (const name of readdirSync(full).sort()) addTo(hash, path.join(entry, name));
  } else {
    hash.update(entry).update('\0').update(readFileSync(full)).update('\0');
  }
}

/** A hash over everything that the build is made from. */
export function sourceStamp() {
  const hash = createHash('sha256');
  for (const entry of BUILT_FROM) addTo(hash, entry);
  return hash.digest('hex');
}

/** A hash over the pinned packages and the version of Node.js, which compiled parts depend on. */
export function packagesStamp() {
  const hash = createHash('sha256');
  addTo(hash, 'package-lock.json');
  return hash.update(process.versions.modules).digest('hex');
}
