// Bundles what a benchmark runs, as the build does with the parts of the application.
import path from 'node:path';

/** Builds a program of `src/bench` and gives the file to start it from. */
export async function bundled(entry) {
  const name = entry.replace(/(\/main)?\.ts$/, '').replaceAll('/', '-');
  const outfile = path.join('build', `${name}.mjs`);
  const esbuild = await import('esbuild');
  await esbuild.build({
    entryPoints: [path.join('src', 'bench', entry)],
    outfile,
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    packages: 'external',
    logLevel: 'warning',
  });
  return outfile;
}
