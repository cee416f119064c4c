import { readdirSync } from 'node:fs';
import path from 'node:path';
import type { z } from 'zod';
import { openApiDocument } from './openapi';
import { operationsByPath } from './routes';

/** Routes that are not operations of the interface: its description, and what answers where there is nothing. */
const APART = ['/openapi.json', '/{...unknown}'];

/** The paths of all route files, as the folders name them. */
function routeFiles(folder = __dirname, at = ''): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    if (entry.isDirectory()) {
      const name = entry.name.replace(/^\[(.*)\]$/, '{$1}');
      return routeFiles(path.join(folder, entry.name), `${at}/${name}`);
    }
    return entry.name === 'route.ts' ? [at] : [];
  });
}

test('every route that the folders hold is described, with every method that it answers to', () => {
  const described = openApiDocument().paths ?? {};
  expect(Object.keys(described).sort()).toEqual(
    routeFiles()
      .filter((one) => !APART.includes(one))
      .sort(),
  );
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
