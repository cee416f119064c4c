import { readdirSync } from 'node:fs';
import path from 'node:path';
import type { z } from 'zod';
import { openApiDocument } from './openapi';
import { findRoute, operationsByPath } from './routes';

/** The paths of all files of operations, as the folders name them. */
function routeFiles(folder = __dirname, at = ''): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    if (entry.isDirectory()) {
      const name = entry.name.replace(/^\[(.*)\]$/, '{$1}');
      return routeFiles(path.join(folder, entry.name), `${at}/${name}`);
    }
    return entry.name === 'operations.ts' ? [at] : [];
  });
}

test('every route that the folders hold is described, with every method that it answers to', () => {
  const described = openApiDocument().paths ?? {};
  expect(Object.keys(described).sort()).toEqual(routeFiles().sort());
  for (const [at, operations] of operationsByPath()) {
    expect([at, Object.keys(described[at]!).sort()]).toEqual([
      at,
      operations.map(([method]) => method.toLowerCase()).sort(),
    ]);
    expect(operations.length).toBeGreaterThan(0);
    for (const [, { described: own }] of operations) expect(own.summary).toMatch(/^[A-Z]/);
  }
});

test('a path names the number that its operations look up', () => {
  for (const [at, operations] of operationsByPath()) {
    const named = [...at.matchAll(/\{(\w+)\}/g)].map(([, name]) => name);
    for (const [method, { described }] of operations) {
      const parameters = Object.keys((described.requestParams?.path as z.ZodObject | undefined)?.shape ?? {});
      expect([at, method, parameters]).toEqual([at, method, named]);
    }
  }
});

test('each path leads to its own operations, also where a parameter would fit', () => {
  for (const [at, operations] of operationsByPath()) {
    const segments = at.slice(1).split('/');
    const found = findRoute(segments.map((text) => (text.startsWith('{') ? '12' : text)))!;
    for (const [method, operation] of operations)
      expect(found.route[method as keyof typeof found.route]).toBe(operation);
    const named = segments.filter((text) => text.startsWith('{')).map((text) => text.slice(1, -1));
    expect(found.path).toEqual(Object.fromEntries(named.map((name) => [name, '12'])));
  }
  expect(findRoute(['changes', '12', 'nothing'])).toBeNull();
  expect(findRoute([])).toBeNull();
});

test('a method that a path has no operation for is refused with those it has', async () => {
  const { GET: serve } = await import('./[...path]/route');
  const send = (method: string, ...path: string[]) =>
    serve(new Request(`http://127.0.0.1/api/v1/${path.join('/')}`, { method }), {
      params: Promise.resolve({ path }),
    });
  const refused = await send('POST', 'changes', '12');
  expect([refused.status, refused.headers.get('Allow')]).toEqual([405, 'GET, PATCH, DELETE, HEAD, OPTIONS']);
  const told = await send('OPTIONS', 'sites', '1', 'changes', 'import');
  expect([told.status, told.headers.get('Allow')]).toEqual([204, 'POST, OPTIONS']);
  expect((await send('GET', 'nothing')).status).toBe(404);
});
