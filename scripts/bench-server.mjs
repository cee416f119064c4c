// A server over the data of a benchmark, driven over HTTP.
import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { SERVER_FLAGS, SERVER_MEMORY } from './ready.mjs';

/** The middle one of some values. */
export const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];

/** Starts the built server over a folder of data, hands on how to ask it, and ends it when `drive` is done. */
export async function withServer(folder, port, drive) {
  const home = `http://127.0.0.1:${port}`;
  const server = spawn(process.execPath, [...SERVER_FLAGS, 'build/server.mjs'], {
    env: { ...SERVER_MEMORY, ...process.env, NODE_ENV: 'production', PORT: port, TALLY_DATA_DIR: folder },
    stdio: 'ignore',
  });
  /** Milliseconds that an answer took, and its size in bytes. */
  async function ask(url) {
    const start = performance.now();
    const answer = await fetch(home + url);
    const text = await answer.text();
    if (!answer.ok) throw new Error(`${url}: ${answer.status}`);
    return { took: performance.now() - start, bytes: Buffer.byteLength(text) };
  }
  try {
    for (let up = false; !up;) {
      up = await fetch(`${home}/api/v1/health`)
        .then((answer) => answer.ok)
        .catch(() => false);
      if (!up) await new Promise((resolve) => setTimeout(resolve, 100));
    }
    await drive(ask);
    const status = readFileSync(`/proc/${server.pid}/status`, 'utf8');
    const [now, most] = ['VmRSS', 'VmHWM'].map(
      (name) => Number(new RegExp(`${name}:\\s+(\\d+)`).exec(status)?.[1]) / 1024,
    );
    console.log(`memory of the server: ${now.toFixed(0)} MB, at most ${most.toFixed(0)} MB`);
  } finally {
    server.kill();
  }
}
