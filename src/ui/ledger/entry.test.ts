import { asDay } from '@/core/calendar/day';
import { filterLedger, gist, type LedgerEntry, type LedgerFilter } from './entry';

const entry = (id: number, over: Partial<LedgerEntry> = {}): LedgerEntry => ({
  ...{ id, day: asDay(20_700 - id), title: `change ${id}`, kind: 'title-rewrite', where: '/guides/' },
  ...{
    verdict: 'raw-change',
    clicksBefore: 100,
    clicksAfter: 120,
    clicksRatio: 1.2,
    completeOn: null,
    cautions: 0,
  },
  words: `change ${id} /guides/`,
  ...over,
});
const ENTRIES = [
  entry(1, {
    verdict: 'waiting',
    clicksRatio: null,
    clicksBefore: null,
    clicksAfter: null,
    completeOn: asDay(20_711),
  }),
  entry(2, { clicksRatio: 0.8, kind: 'headings', words: 'smoker guide headings' }),
  entry(3, { clicksRatio: 1.5 }),
  entry(4, { verdict: 'no-figures', clicksRatio: null }),
];
const ids = (filter: Partial<LedgerFilter>) =>
  filterLedger(ENTRIES, { q: '', kind: 'any', state: 'any', sort: 'newest', ...filter }).map((e) => e.id);

test.each<[Partial<LedgerFilter>, number[]]>([
  [{}, [1, 2, 3, 4]],
  [{ sort: 'oldest' }, [4, 3, 2, 1]],
  [{ sort: 'rise' }, [3, 2, 1, 4]],
  [{ sort: 'fall' }, [2, 3, 1, 4]],
  [{ kind: 'headings' }, [2]],
  [{ state: 'waiting' }, [1]],
  [{ state: 'complete' }, [2, 3]],
  [{ state: 'none' }, [4]],
  [{ q: 'GUIDE  smoker' }, [2]],
  [{ q: 'nothing' }, []],
])('%p leaves %p', (filter, wanted) => {
  expect(ids(filter)).toEqual(wanted);
});

test('sorting leaves the list that was given as it is', () => {
  ids({ sort: 'oldest' });
  expect(ENTRIES.map((e) => e.id)).toEqual([1, 2, 3, 4]);
});

test.each([
  [entry(1), { main: '+20.0%', under: '100 → 120' }],
  [entry(1, { clicksBefore: 0, clicksRatio: null }), { main: '+120', under: '0 → 120' }],
  [ENTRIES[0]!, { main: 'waiting', under: 'until 15 Sep' }],
  [
    { ...ENTRIES[0]!, completeOn: null },
    { main: 'waiting', under: 'for figures' },
  ],
  [ENTRIES[3]!, { main: 'no figures', under: 'for these days' }],
])('the gist of %#', (line, wanted) => {
  expect(gist(line)).toEqual(wanted);
});
