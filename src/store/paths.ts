import path from 'node:path';

/** The data folder: TALLY_DATA_DIR, or `data/own` in the working directory. */
export function dataDir(): string {
  return path.resolve(/* turbopackIgnore: true */ process.env.TALLY_DATA_DIR || path.join('data', 'own'));
}

export function databaseFile(dir = dataDir()): string {
  return path.join(dir, 'tally.sqlite');
}
