// Sends a file of figures to a server of its own over HTTP, as a script would, and gives how long it took from the first
// byte sent until all of it counted.
import { spawn } from 'node:child_process';
import { createReadStream, mkdirSync, statSync } from 'node:fs';
import http from 'node:http';
import path from 'node:path';

const PORT = 3497;
const base = `http://127.0.0.1:${PORT}/api/v1`;
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** A server over a folder of data, with one site; `stop` ends it. */
export async function startServer(folder) {
  mkdirSync(folder, { recursive: true });
  const server = spawn(process.execPath, ['build/server.mjs'], {
    env: { ...process.env, NODE_ENV: 'production', PORT: String(PORT), TALLY_DATA_DIR: path.resolve(folder) },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  const ended = new Promise((resolve) => server.once('exit', resolve));
  for (let i = 0; ; i++) {
    const answer = await fetch(`${base}/sites`).catch(() => null);
    if (answer?.ok) break;
    if (i > 200) throw new Error('The server does not answer.');
    await pause(100);
  }
  const site = await (
    await fetch(`${base}/sites`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ name: 'Bench', address: 'https://www.quillow-bees.example' }),
    })
  ).json();
  // The server readies itself after its start; a person would not have sent a file yet.
  await pause(4000);
  return {
    siteId: site.id,
    stop: async () => {
      server.kill('SIGTERM');
      await ended;
    },
  };
}

/** Seconds from the first byte of a file to all of it counting. */
export async function sendFile(siteId, file, type = 'text/csv') {
  const start = performance.now();
  const answer = await new Promise((resolve, reject) => {
    const request = http.request(
      `${base}/sites/${siteId}/imports`,
      { method: 'POST', headers: { 'Content-Type': type, 'Content-Length': statSync(file).size } },
      (response) => {
        let text = '';
        response.on('data', (piece) => (text += piece));
        response.on('end', () => resolve({ status: response.statusCode, body: JSON.parse(text) }));
      },
    );
    request.on('error', reject);
    createReadStream(file, { highWaterMark: 1 << 20 }).pipe(request);
  });
  if (answer.status !== 202) throw new Error(JSON.stringify(answer.body));
  const sent = (performance.now() - start) / 1000;
  for (;;) {
    const row = await (await fetch(`${base}/imports/${answer.body.id}`)).json();
    if (row.state === 'done')
      return { seconds: (performance.now() - start) / 1000, sent, rows: row.rowsStored };
    if (row.state === 'failed') throw new Error(JSON.stringify(row.problems));
    await pause(50);
  }
}
