import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import type { Action } from '@/app/action';
import type { Operation } from '@/app/api/v1/doorway';

/*
 * Every route, action and screen, found in the code, so that a new one is walked without anybody
 * remembering.
 */

function filesOf(dir: string, wanted: (file: string) => boolean): string[] {
  return readdirSync(dir, { withFileTypes: true }).flatMap((entry) => {
    const full = path.join(dir, entry.name);
    return entry.isDirectory() ? filesOf(full, wanted) : wanted(full) ? [full] : [];
  });
}
export const load = (file: string) =>
  // eslint-disable-next-line @typescript-eslint/no-require-imports
  require(path.resolve(file)) as Record<string, unknown>;
const under = (file: string) => path.dirname(path.relative('src/app', file)).replace(/\\/g, '/');

/**
 * What has no operations of its own: the description of the interface, which is the same for
 * everybody, and the entry that leads to all others.
 */
const OPEN = ['api/v1/openapi.json', 'api/v1/[...path]'];
const METHODS = ['GET', 'POST', 'PUT', 'PATCH', 'DELETE'];

export const ROUTES = filesOf('src/app', (file) => /\/(route|operations)\.ts$/.test(file))
  .filter((file) => !OPEN.includes(under(file)))
  .flatMap((file) =>
    Object.entries(load(file))
      .filter(([method]) => METHODS.includes(method))
      .map(([method, operation]) => [`${method} ${under(file)}`, method, operation as Operation] as const),
  );
export const ACTIONS = filesOf(
  'src',
  (file) => /\.tsx?$/.test(file) && /^\s*['"]use server['"]/m.test(readFileSync(file, 'utf8')),
).flatMap((file) =>
  Object.entries(load(file)).map(
    ([name, action]) =>
      [`${path.relative('src/app', file)} ${name}`, action as Action<never[], unknown>] as const,
  ),
);
export const SCREENS = filesOf('src/app', (file) => /\/(page|layout)\.tsx$/.test(file)).map(
  (file) => [path.relative('src/app', file), file] as const,
);
