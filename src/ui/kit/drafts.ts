/*
 * What is typed and not saved yet, kept in the browser under what it is about and the tab in which it is typed: two forms for a new
 * change are two drafts, and one for change 12 is never taken for one of change 13.
 */

/** A draft: when it was last typed in (ISO 8601), the form as it is, and as it was when it began. */
export type Draft<T> = { readonly at: string; readonly values: T; readonly base: T };

const PREFIX = 'tally:draft:';
const KEPT_MS = 30 * 24 * 3600 * 1000;
const MOST_DRAFTS = 60;

/** Where drafts are kept; a browser's storage is one. */
export type DraftStore = Pick<Storage, 'getItem' | 'setItem' | 'removeItem' | 'key' | 'length'>;

const keyOf = (what: string, tab: string) => `${PREFIX}${what}#${tab}`;

function read<T>(store: DraftStore, key: string): Draft<T> | null {
  try {
    const draft = JSON.parse(store.getItem(key) ?? 'null') as Draft<T> | null;
    return draft && typeof draft.at === 'string' && typeof draft.values === 'object' ? draft : null;
  } catch {
    return null;
  }
}

function keys(store: DraftStore): string[] {
  return Array.from({ length: store.length }, (_, i) => store.key(i) ?? '').filter((key) =>
    key.startsWith(PREFIX),
  );
}

/** The drafts of something: that of this tab, and those that other tabs have left, the newest first. */
export function draftsOf<T>(
  store: DraftStore,
  what: string,
  tab: string,
): { readonly own: Draft<T> | null; readonly others: readonly (Draft<T> & { readonly tab: string })[] } {
  const of = `${PREFIX}${what}#`;
  const others = keys(store)
    .filter((key) => key.startsWith(of) && key !== keyOf(what, tab))
    .flatMap((key) => {
      const draft = read<T>(store, key);
      return draft ? [{ ...draft, tab: key.slice(of.length) }] : [];
    })
    .sort((a, b) => (a.at < b.at ? 1 : -1));
  return { own: read<T>(store, keyOf(what, tab)), others };
}

/** Keeps a draft; one that says what it began with is dropped. Storage can be full or forbidden: forms work without it. */
export function keepDraft<T>(
  store: DraftStore,
  what: string,
  tab: string,
  values: T,
  base: T,
  now: Date,
): void {
  try {
    if (JSON.stringify(values) === JSON.stringify(base)) store.removeItem(keyOf(what, tab));
    else {
      const draft: Draft<T> = { at: now.toISOString(), values, base };
      store.setItem(keyOf(what, tab), JSON.stringify(draft));
    }
  } catch {}
}

export function dropDraft(store: DraftStore, what: string, tab: string): void {
  try {
    store.removeItem(keyOf(what, tab));
  } catch {}
}

/** Drops drafts that are old, and the oldest where there are very many. */
export function dropOldDrafts(store: DraftStore, now: Date): void {
  const all = keys(store)
    .map((key) => ({ key, at: read(store, key)?.at ?? '' }))
    .sort((a, b) => (a.at < b.at ? 1 : -1));
  const since = new Date(now.getTime() - KEPT_MS).toISOString();
  all.forEach(({ key, at }, i) => {
    if (i >= MOST_DRAFTS || at < since) store.removeItem(key);
  });
}
