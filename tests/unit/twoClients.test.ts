import { fork, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { buildSync } from 'esbuild';
import fc from 'fast-check';
import { isoDay, type Day } from '@/core/calendar/day';
import { addImport } from '@/store/figures/imports';
import { siteSeries } from '@/store/figures/series';
import { withParts } from '@/store/ledger/changeParts';
import { findSite } from '@/store/sites';
import type { Order } from '../support/actor';
import { after, clicksOf, NOTHING, pageOf, pagesOf, type Plain, type Row } from '../support/plainModel';
import { TempStore } from '../support/tempDb';

/*
 * Two processes write to one database in random order, now one after the other, now at once, and are killed (SIGKILL) in the middle of
 * what they do. What is there afterwards must be what a plain model says: everything that was acknowledged, and of what was being
 * done when a process died all or nothing.
 */

const built = mkdtempSync(path.join('build', 'test-'));
const program = path.join(built, 'actor.mjs');
beforeAll(() => {
  buildSync({
    entryPoints: ['tests/support/actor.ts'],
    outfile: program,
    ...{ bundle: true, platform: 'node', target: 'node20', format: 'esm', packages: 'external' },
    tsconfig: 'tsconfig.json',
    logLevel: 'error',
  });
});
afterAll(() => rmSync(built, { recursive: true }));

/** A process that carries out orders, and is there again after it was killed. */
class Actor {
  private child: ChildProcess | null = null;

  constructor(private readonly store: TempStore) {}

  private async alive(): Promise<ChildProcess> {
    if (this.child) return this.child;
    const child = fork(program, [this.store.file, this.store.dir], { stdio: 'inherit' });
    this.child = child;
    await new Promise((resolve) => child.once('message', resolve));
    return child;
  }

  /** Gives whether it was done. */
  async tell(order: Order): Promise<boolean> {
    const child = await this.alive();
    const answer = new Promise<boolean>((resolve) =>
      child.once('message', (done) => resolve(done as boolean)),
    );
    child.send(order);
    return answer;
  }

  /** Kills it so long after it was told; gives its answer where it still had the time to give one. */
  async killAmid(order: Order, ms: number): Promise<boolean | null> {
    const child = await this.alive();
    let answer: boolean | null = null;
    child.once('message', (done) => (answer = done as boolean));
    child.send(order);
    await sleep(ms);
    await this.kill();
    return answer;
  }

  async kill(): Promise<void> {
    const child = this.child;
    this.child = null;
    if (!child) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGKILL');
    await gone;
  }
}

const PATHS = ['/a', '/a/', '/b/', '/c'];
const FIRST_DAY = 20_700;

/** An order as it is drawn; which change, file or base it is about is settled when its turn comes. */
type Drawn = {
  readonly kind: 'log' | 'edit' | 'delete' | 'restore' | 'import' | 'undo' | 'redo' | 'rules' | 'rules back';
  readonly which: number;
  readonly field: 'title' | 'note' | 'pages';
  readonly text: string;
  readonly pages: readonly string[];
  readonly stale: boolean;
  readonly slash: Plain['slash'];
  readonly rows: readonly Row[];
};
const drawn: fc.Arbitrary<Drawn> = fc.record({
  kind: fc.constantFrom<Drawn['kind'][]>(
    ...([
      'log',
      'log',
      'edit',
      'edit',
      'edit',
      'edit',
      'delete',
      'restore',
      'import',
      'undo',
      'redo',
    ] as const),
    ...(['rules', 'rules back'] as const),
  ),
  which: fc.nat(),
  field: fc.constantFrom('title', 'note', 'pages'),
  text: fc.constantFrom('one', 'two', 'three'),
  pages: fc.uniqueArray(fc.constantFrom(...PATHS), { minLength: 1, maxLength: 3 }),
  stale: fc.boolean(),
  slash: fc.constantFrom('as-written', 'with', 'without'),
  rows: fc.uniqueArray(
    fc.record({
      day: fc.integer({ min: FIRST_DAY, max: FIRST_DAY + 2 }),
      path: fc.constantFrom(...PATHS),
      clicks: fc.integer({ min: 1, max: 9 }),
    }),
    { minLength: 1, maxLength: 6, selector: ({ day, path: at }) => `${day} ${at}` },
  ),
});
/** How a turn goes: one order alone, two at once from both, or one that is killed so many milliseconds later. */
const turn = fc.oneof(
  {
    weight: 4,
    arbitrary: fc.record({ way: fc.constant('alone' as const), orders: fc.tuple(drawn), by: fc.boolean() }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      way: fc.constant('at once' as const),
      orders: fc.tuple(drawn, drawn),
      by: fc.boolean(),
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      way: fc.constant('killed' as const),
      orders: fc.tuple(drawn),
      by: fc.boolean(),
      ms: fc.integer({ min: 0, max: 12 }),
    }),
  },
);

class Scene {
  readonly store = new TempStore();
  readonly actors: readonly [Actor, Actor] = [new Actor(this.store), new Actor(this.store)];
  plain = NOTHING;

  /** An order as it is told, from what its giver has seen last. */
  async orderOf(one: Drawn): Promise<Order | null> {
    const { changes, files } = this.plain;
    const change = changes[one.which % Math.max(1, changes.length)];
    const file = files[one.which % Math.max(1, files.length)];
    switch (one.kind) {
      case 'log':
        return { do: 'log', title: one.text, pages: one.pages };
      case 'edit': {
        if (!change) return null;
        const stands = one.field === 'pages' ? pagesOf(change, this.plain) : change[one.field];
        const old = one.field === 'pages' ? ['/old'] : 'long ago';
        const value = one.field === 'pages' ? [...one.pages].sort() : one.text;
        return { do: 'edit', id: change.id, field: one.field, value, base: one.stale ? old : stands };
      }
      case 'delete':
      case 'restore':
        return change ? { do: one.kind, id: change.id } : null;
      case 'undo':
      case 'redo':
        return file ? { do: one.kind, importId: file.id } : null;
      case 'rules':
        return { do: 'rules', slash: one.slash };
      case 'rules back':
        return { do: 'rules back' };
      case 'import':
        await this.queue(one.rows);
        return { do: 'import' };
    }
  }

  /** A file is taken: from here on it will come in, whatever happens. */
  private async queue(rows: readonly Row[]): Promise<void> {
    const csv = [
      'date,page,clicks,impressions',
      ...rows.map(({ day, path: at, clicks }) => `${isoDay(day as Day)},${at},${clicks},100`),
    ];
    const values = {
      siteId: 1,
      fileName: 'f.csv',
      bytesTotal: 1,
      takenOn: 30_000 as Day,
      state: 'draft' as const,
    };
    const id = await addImport(this.store.db, values);
    writeFileSync(path.join(this.store.dir, `${id}.csv`), csv.join('\n'));
    this.store.db.$client.prepare("UPDATE import SET state = 'queued' WHERE id = ?").run(id);
    this.plain = { ...this.plain, files: [...this.plain.files, { id, rows, counts: true }] };
  }

  /** What is in the database, in the words of the model. */
  seen(): object {
    const { db } = this.store;
    const rows = db.$client.prepare('SELECT * FROM change ORDER BY id').all() as { id: number }[];
    const deleted = db.$client
      .prepare<[number], string | null>('SELECT deleted_at FROM change WHERE id = ?')
      .pluck();
    const edits = db.$client
      .prepare<[number], number>('SELECT count(*) FROM change_history WHERE change_id = ?')
      .pluck();
    const pathOf = (address: string) => new URL(address).pathname;
    const changes = withParts(
      db,
      rows.map((row) => asColumns(row)),
    ).map((change) => ({
      ...{ id: change.id, title: change.title, note: change.note ?? '' },
      written: change.written.map(pathOf).sort(),
      pages: change.pages.map(({ address }) => pathOf(address)).sort(),
      deleted: deleted.get(change.id) !== null,
      edits: edits.get(change.id),
    }));
    const address = db.$client.prepare<[number], string>('SELECT address FROM page WHERE id = ?').pluck();
    const clicks = siteSeries(db, 1, 0).flatMap(({ id, firstDay, clicks: all, present }) =>
      Array.from(all).flatMap((n, i) =>
        present[i] ? [[`${pathOf(address.get(id)!)} ${firstDay + i}`, n] as const] : [],
      ),
    );
    clicks.sort(([a], [b]) => (a < b ? -1 : 1));
    return { changes, clicks: Object.fromEntries(clicks), slash: findSite(db, 1)!.rules.trailingSlash };
  }

  async close(): Promise<void> {
    await Promise.all(this.actors.map((actor) => actor.kill()));
    this.store.close();
  }
}

/** A row of the table as the query builder names its columns. */
function asColumns(row: Record<string, unknown>): Parameters<typeof withParts>[1][number] {
  const named = Object.entries(row).map(([name, value]) => [
    name.replace(/_(\w)/g, (_m, c: string) => c.toUpperCase()),
    value,
  ]);
  return Object.fromEntries(named) as Parameters<typeof withParts>[1][number];
}

function expected(plain: Plain): object {
  return {
    changes: plain.changes.map((change) => ({
      ...{ id: change.id, title: change.title, note: change.note },
      written: [...change.written].sort(),
      pages: pagesOf(change, plain),
      ...{ deleted: change.deleted, edits: change.edits },
    })),
    clicks: clicksOf(plain),
    slash: plain.slash,
  };
}

test('whatever two clients do, and however often they are killed, everything acknowledged is there and nothing half', async () => {
  let [turns, kills, together, refused] = [0, 0, 0, 0];
  const run = async (steps: readonly (typeof turn extends fc.Arbitrary<infer T> ? T : never)[]) => {
    const scene = new Scene();
    try {
      await scene.store.site();
      let plains: readonly Plain[] = [scene.plain];
      for (const step of steps) {
        const orders: Order[] = [];
        const { length } = scene.plain.files;
        for (const one of step.orders) {
          const order = await scene.orderOf(one);
          if (order) orders.push(order);
        }
        // Files that were put there for the orders are there, whatever else holds.
        const put = scene.plain.files.slice(length);
        plains = plains.map((plain) => ({ ...plain, files: [...plain.files, ...put] }));
        if (orders.length === 0) continue;
        turns++;
        const [a, b] = step.by ? scene.actors : ([scene.actors[1], scene.actors[0]] as const);
        const imports = orders.some((order) => order.do === 'import');
        // A file that is being undone while it comes in may be met before or after; which, the model cannot say.
        const byTurns = imports && orders.some((order) => ['undo', 'redo'].includes(order.do));
        const two = orders.filter((order) => order.do === 'import').length === 2;
        type Outcome = { then: Plain; answers: (boolean | null)[] };
        let outcomesFrom: (plain: Plain) => Outcome[];
        let answers: (boolean | null)[];
        if (step.way === 'killed') {
          kills++;
          answers = [await a.killAmid(orders[0]!, step.ms)];
          outcomesFrom = (plain) => {
            const { then, done } = after(plain, orders[0]!);
            // Without an answer it may have been done, or not.
            return [
              { then, answers: [done] },
              { then, answers: [null] },
              { then: plain, answers: [null] },
            ];
          };
        } else if (orders.length === 2 && !byTurns && !two) {
          together++;
          // Files come in by one process, as in the server.
          const [own, other] = imports ? scene.actors : ([a, b] as const);
          const [first, second] = orders[1]!.do === 'import' ? [other, own] : [own, other];
          answers = await Promise.all([first.tell(orders[0]!), second.tell(orders[1]!)]);
          const ways = [
            [0, 1],
            [1, 0],
          ];
          const inOrder = (from: Plain, order: readonly number[]): Outcome => {
            const found: boolean[] = [];
            let plain = from;
            for (const i of order) {
              const { then, done } = after(plain, orders[i]!);
              plain = then;
              found[i] = done;
            }
            return { then: plain, answers: found };
          };
          outcomesFrom = (from) => ways.map((order) => inOrder(from, order));
        } else {
          answers = [];
          for (const order of orders)
            answers.push(await (order.do === 'import' ? scene.actors[0] : a).tell(order));
          outcomesFrom = (from) => {
            let plain = from;
            const found = orders.map((order) => {
              const { then, done } = after(plain, order);
              plain = then;
              return done;
            });
            return [{ then: plain, answers: found }];
          };
        }
        refused += answers.filter((answer) => answer === false).length;
        // What a killed process left of a file is done at the next start.
        if (step.way === 'killed' && imports) await scene.actors[0].tell({ do: 'import' });
        const seen = JSON.stringify(scene.seen());
        const outcomes = plains.flatMap(outcomesFrom);
        const fitting = outcomes.filter(
          ({ then, answers: theirs }) =>
            JSON.stringify(expected(then)) === seen && JSON.stringify(theirs) === JSON.stringify(answers),
        );
        if (fitting.length === 0)
          expect({ orders, answers, seen: JSON.parse(seen) as unknown }).toEqual(
            outcomes.map(({ then, answers: theirs }) => ({ orders, answers: theirs, seen: expected(then) })),
          );
        // Whether what a killed process did not answer was done may show only later: whether there is something to go back to.
        plains = [...new Map(fitting.map(({ then }) => [JSON.stringify(then), then])).values()];
        scene.plain = plains[0]!;
      }
    } finally {
      await scene.close();
    }
  };
  await fc.assert(fc.asyncProperty(fc.array(turn, { minLength: 12, maxLength: 30 }), run), {
    numRuns: 6,
    endOnFailure: true,
  });
  // It went through what it is meant to go through.
  expect([turns > 50, kills > 8, together > 5, refused > 5]).toEqual([true, true, true, true]);
}, 300_000);

test('the model itself: slashes, and what stands of files over each other', () => {
  expect([
    pageOf('/a/', 'without'),
    pageOf('/a', 'with'),
    pageOf('/', 'with'),
    pageOf('/a', 'as-written'),
  ]).toEqual([...['/a', '/a/', '/', '/a']]);
  const files = [
    {
      id: 1,
      rows: [
        { day: 1, path: '/a', clicks: 1 },
        { day: 1, path: '/a/', clicks: 2 },
      ],
      counts: true,
    },
    { id: 2, rows: [{ day: 1, path: '/a', clicks: 5 }], counts: true },
  ];
  expect(clicksOf({ ...NOTHING, files })).toEqual({ '/a 1': 5, '/a/ 1': 2 });
  expect(clicksOf({ ...NOTHING, files, slash: 'without' })).toEqual({ '/a 1': 7 });
  expect(clicksOf({ ...NOTHING, files: [files[0]!, { ...files[1]!, counts: false }] })).toEqual({
    '/a 1': 1,
    '/a/ 1': 2,
  });
});
