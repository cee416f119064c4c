import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';

const UNIT = 'deploy/modest-tally.service';

const analyze = spawnSync('systemd-analyze', ['--version']).status === 0 ? test : test.skip;
analyze('systemd finds nothing wrong with the unit', () => {
  const { stderr, stdout } = spawnSync('systemd-analyze', ['verify', UNIT], { encoding: 'utf8' });
  // Where this machine has Node.js is its own affair.
  const said = `${stdout}${stderr}`
    .split('\n')
    .filter((line) => line.includes('modest-tally') && !/not executable|No such file/.test(line));
  expect(said).toEqual([]);
});

test('the unit starts the server as the scripts do', () => {
  const ready = readFileSync('scripts/ready.mjs', 'utf8');
  const unit = readFileSync(UNIT, 'utf8');
  const flags = /SERVER_FLAGS = \[([^\]]*)\]/.exec(ready)![1]!.match(/--[\w=-]+/g)!;
  expect(unit).toContain(`${flags.join(' ')} build/server.mjs`);
  for (const [, name, value] of ready.matchAll(/(MALLOC_\w+): '(\d+)'/g))
    expect(unit).toContain(`${name}=${value}`);
});
