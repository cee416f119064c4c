// Completes package-lock.json with the packages of other platforms. A registry that mirrors only some platforms leaves
// the others out of the lock file, and `npm ci` then refuses it everywhere. Which they are, and in which version, stands
// in the lock file itself, in the optional dependencies of their parents. Run it after packages were added or updated.
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { root } from './stamp.mjs';

const file = path.join(root, 'package-lock.json');
const lock = JSON.parse(readFileSync(file, 'utf8'));
const { packages } = lock;

const SYSTEMS = [
  'aix',
  'android',
  'darwin',
  'freebsd',
  'linux',
  'netbsd',
  'openbsd',
  'openharmony',
  'sunos',
  'win32',
];
const PROCESSORS = [
  'arm64',
  'arm',
  'ia32',
  'loong64',
  'mips64el',
  'ppc64',
  'riscv64',
  's390x',
  'wasm32',
  'x64',
];

/** The system and processor that a platform package is named for. */
function platformOf(name) {
  const parts = name.split('/').pop().split('-');
  const os = SYSTEMS.filter((system) => parts.includes(system));
  const cpu = PROCESSORS.filter((processor) => parts.includes(processor));
  return { ...(cpu.length ? { cpu } : {}), ...(os.length ? { os } : {}) };
}

/** The place in the lock file where a dependency of `parent` is found, by the rules of node_modules. */
function placeOf(parent, name) {
  for (let folder = parent; ; folder = folder.slice(0, Math.max(0, folder.lastIndexOf('node_modules') - 1))) {
    const place = `${folder}${folder ? '/' : ''}node_modules/${name}`;
    if (packages[place]) return place;
    if (folder === '') return null;
  }
}

let added = 0;
for (const [parent, entry] of Object.entries(packages)) {
  for (const [name, version] of Object.entries(entry.optionalDependencies ?? {})) {
    const place = placeOf(parent, name);
    const platform = platformOf(name);
    if (place || !/^\d/.test(version) || Object.keys(platform).length === 0) continue;
    packages[`node_modules/${name}`] = {
      version,
      ...platform,
      optional: true,
      ...(entry.dev ? { dev: true } : {}),
    };
    added++;
  }
}
lock.packages = Object.fromEntries(Object.entries(packages).sort(([a], [b]) => (a < b ? -1 : 1)));
writeFileSync(file, `${JSON.stringify(lock, null, 2)}\n`);
console.log(`${added} packages of other platforms added.`);
