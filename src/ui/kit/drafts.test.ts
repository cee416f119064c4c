import { draftsOf, dropDraft, dropOldDrafts, keepDraft, type DraftStore } from './drafts';

function storage(): DraftStore {
  const map = new Map<string, string>();
  return {
    getItem: (key) => map.get(key) ?? null,
    setItem: (key, value) => void map.set(key, value),
    removeItem: (key) => void map.delete(key),
    key: (i) => [...map.keys()][i] ?? null,
    get length() {
      return map.size;
    },
  };
}
const at = (hour: number) => new Date(Date.UTC(2026, 8, 14, hour));
const base = { note: '' };

test('drafts of one thing in two tabs are two, and never those of another thing', () => {
  const store = storage();
  keepDraft(store, 'change:1', 'a', { note: 'in a' }, base, at(8));
  keepDraft(store, 'change:1', 'b', { note: 'in b' }, base, at(9));
  keepDraft(store, 'change:12', 'a', { note: 'of another' }, base, at(9));
  const { own, others } = draftsOf(store, 'change:1', 'a');
  expect(own).toEqual({ at: at(8).toISOString(), values: { note: 'in a' }, base });
  expect(others).toEqual([{ at: at(9).toISOString(), values: { note: 'in b' }, base, tab: 'b' }]);
  dropDraft(store, 'change:1', 'b');
  expect(draftsOf(store, 'change:1', 'a').others).toEqual([]);
});

test('what says what it began with is no draft', () => {
  const store = storage();
  keepDraft(store, 'change:1', 'a', { note: 'x' }, base, at(8));
  keepDraft(store, 'change:1', 'a', { note: '' }, base, at(8));
  expect(draftsOf(store, 'change:1', 'a')).toEqual({ own: null, others: [] });
});

test('rubbish in the storage is passed over, and a storage that refuses does no harm', () => {
  const store = storage();
  for (const rubbish of ['{', 'null', '5', '{"at": 5, "values": 6}'])
    store.setItem(`tally:draft:change:1#${rubbish}`, rubbish);
  expect(draftsOf(store, 'change:1', 'a')).toEqual({ own: null, others: [] });
  const full = {
    ...store,
    setItem: () => {
      throw new Error('full');
    },
  };
  expect(() => keepDraft(full, 'change:1', 'a', { note: 'x' }, base, at(8))).not.toThrow();
});

test('old drafts go, and of very many the oldest', () => {
  const store = storage();
  for (let i = 0; i < 70; i++) keepDraft(store, `change:${i}`, 'a', { note: 'x' }, base, at(i / 10));
  store.setItem('something else', 'stays');
  dropOldDrafts(store, at(8));
  expect(store.length).toBe(61);
  expect(draftsOf(store, 'change:0', 'a').own).toBeNull();
  expect(draftsOf(store, 'change:69', 'a').own).not.toBeNull();
  dropOldDrafts(store, new Date(Date.UTC(2026, 10, 14)));
  expect(store.length).toBe(1);
});
