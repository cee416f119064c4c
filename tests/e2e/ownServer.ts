import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { TODAY } from './support';

/** A port of the same number in each worker, spaced as those of the shared servers are. */
export const ownPort = (port: number): string =>
  String(port + 20 * Number(process.env.TEST_PARALLEL_INDEX ?? 0));

/** Built programs on a folder and a port of a test's own, so that it can start, end and kill them. */
export class OwnServer {
  dir = '';
  running: ChildProcess | null = null;
  readonly home: string;
  readonly answers: RegExp;

  constructor(readonly port: string) {
    this.home = `http://127.0.0.1:${port}`;
    this.answers = new RegExp(`answers on ${this.home.replaceAll('.', '\\.')}`);
  }

  /** A fresh folder. */
  begin(): void {
    this.dir = mkdtempSync(path.join(tmpdir(), 'tally-start-'));
  }

  async end(): Promise<void> {
    await this.stop('SIGKILL');
    rmSync(this.dir, { recursive: true, force: true });
  }

  /** Runs a built program on the folder of this test; gives what it printed and how it ended, or that it goes on. */
  readonly run = (
    program: string,
    until?: RegExp,
    over: Record<string, string> = {},
    args: readonly string[] = [],
    user: { uid?: number; gid?: number } = {},
  ): Promise<{ printed: string; code: number | null }> => {
    const env = {
      ...process.env,
      NODE_ENV: 'production' as const,
      PORT: this.port,
      TALLY_DATA_DIR: this.dir,
      TALLY_TODAY: TODAY,
      TALLY_BACKUPS: 'off',
      ...over,
    };
    const child = spawn(process.execPath, [program, ...args], { env, ...user });
    this.running = child;
    return new Promise((resolve) => {
      let printed = '';
      const hear = (piece: Buffer) => {
        printed += piece.toString();
        if (until?.test(printed)) resolve({ printed, code: null });
      };
      child.stdout.on('data', hear);
      child.stderr.on('data', hear);
      child.on('exit', (code) => resolve({ printed, code }));
    });
  };

  readonly stop = async (signal: NodeJS.Signals): Promise<void> => {
    const child = this.running;
    this.running = null;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const ended = new Promise((resolve) => child.once('exit', resolve));
    child.kill(signal);
    await ended;
  };
}
