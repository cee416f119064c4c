import type { Order } from './actor';

/*
 * What should be there, as plainly as it can be said: a list of changes with the addresses as they were typed, a list of files, and
 * which slashes count. It knows nothing of layers, transactions or tables.
 */

export type Row = { readonly day: number; readonly path: string; readonly clicks: number };

export type Plain = {
  readonly changes: readonly {
    readonly id: number;
    readonly title: string;
    readonly note: string;
    readonly written: readonly string[];
    readonly deleted: boolean;
    readonly edits: number;
  }[];
  readonly files: readonly { readonly id: number; readonly rows: readonly Row[]; readonly counts: boolean }[];
  readonly slash: 'as-written' | 'with' | 'without';
  readonly slashBefore: Plain['slash'] | null;
};

export const NOTHING: Plain = { changes: [], files: [], slash: 'as-written', slashBefore: null };

/** The page that a path is. */
export function pageOf(path: string, slash: Plain['slash']): string {
  const bare = path === '/' ? path : path.replace(/\/$/, '');
  return slash === 'as-written' ? path : slash === 'without' || bare === '/' ? bare : `${bare}/`;
}

export function pagesOf({ written }: Plain['changes'][number], { slash }: Plain): string[] {
  return [...new Set(written.map((path) => pageOf(path, slash)))].sort();
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/** What comes of an order, and whether it is carried out at all. */
export function after(now: Plain, order: Order): { readonly then: Plain; readonly done: boolean } {
  const no = { then: now, done: false };
  const withChange = (id: number, edit: (one: Plain['changes'][number]) => Plain['changes'][number]) => ({
    then: { ...now, changes: now.changes.map((one) => (one.id === id ? edit(one) : one)) },
    done: true,
  });
  switch (order.do) {
    case 'log': {
      const { title, pages } = order;
      const id = Math.max(0, ...now.changes.map((one) => one.id)) + 1;
      // Every address that was typed is kept, each once.
      const written = [...new Set(pages)];
      const logged = { id, title, note: '', written, deleted: false, edits: 0 };
      return { then: { ...now, changes: [...now.changes, logged] }, done: true };
    }
    case 'edit': {
      const found = now.changes.find(({ id, deleted }) => id === order.id && !deleted);
      if (!found) return no;
      const { field, value, base } = order;
      const stands = field === 'pages' ? pagesOf(found, now) : found[field];
      if (!same(base, stands) && !same(value, stands)) return no;
      if (field !== 'pages')
        return withChange(order.id, (one) => ({ ...one, [field]: value, edits: one.edits + 1 }));
      const wanted = new Set((value as string[]).map((path) => pageOf(path, now.slash)));
      const kept = found.written.filter((path) => wanted.has(pageOf(path, now.slash)));
      const keptPages = new Set(kept.map((path) => pageOf(path, now.slash)));
      const added = (value as string[]).filter((path) => !keptPages.has(pageOf(path, now.slash)));
      const written = [...new Set([...kept, ...added])];
      return withChange(order.id, (one) => ({ ...one, written, edits: one.edits + 1 }));
    }
    case 'delete':
    case 'restore': {
      const deleted = order.do === 'delete';
      const found = now.changes.find((one) => one.id === order.id && one.deleted !== deleted);
      return found ? withChange(order.id, (one) => ({ ...one, deleted })) : no;
    }
    case 'import':
      // The file is among those that count from the moment in which it was taken.
      return { then: now, done: true };
    case 'undo':
    case 'redo': {
      const counts = order.do === 'redo';
      const found = now.files.find((one) => one.id === order.importId && one.counts !== counts);
      if (!found) return no;
      return {
        then: { ...now, files: now.files.map((one) => (one === found ? { ...one, counts } : one)) },
        done: true,
      };
    }
    case 'rules':
      return { then: { ...now, slash: order.slash, slashBefore: now.slash }, done: true };
    case 'rules back':
      return now.slashBefore === null
        ? no
        : { then: { ...now, slash: now.slashBefore, slashBefore: now.slash }, done: true };
  }
}

/** The clicks of every page on every day: of each written address what the last file says that counts, added up. */
export function clicksOf({ files, slash }: Plain): Record<string, number> {
  const standing = new Map<string, { path: string; day: number; clicks: number }>();
  for (const { rows, counts } of files)
    if (counts) for (const row of rows) standing.set(`${row.path} ${row.day}`, row);
  const sums: Record<string, number> = Object.create(null) as Record<string, number>;
  for (const { path, day, clicks } of standing.values()) {
    const key = `${pageOf(path, slash)} ${day}`;
    sums[key] = (sums[key] ?? 0) + clicks;
  }
  return Object.fromEntries(Object.entries(sums).sort(([a], [b]) => (a < b ? -1 : 1)));
}
