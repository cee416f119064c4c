import { asDay } from '@/core/calendar/day';
import type { LedgerEntry } from '@/core/reading/ledgerEntry';
import { filterLedger, gist, type LedgerFilter } from './entry';

const entry = (id: number, over: Partial<LedgerEntry> = {}): LedgerEntry => ({
  ...{
    id,
    day: asDay(20_700 - id),
    title: `change ${id}`,
    kinds: ['title-rewrite'],
    where: '/guides/',
    raw: '',
  },
  ...{
    verdict: 'unclear',
    withoutFigures: false,
    planned: false,
    judged: 'clicks',
    movedIn: null,
    early: null,
  },
  ...{ effect: '+20%', range: '\u22125% to +50%', height: Math.log(1.2), completeOn: null, cautions: 0 },
  words: `change ${id} /guides/`,
  ...over,
});
const ENTRIES = [
  entry(1, { verdict: 'waiting', height: Math.log(9), completeOn: asDay(20_711) }),
  entry(2, {
    verdict: 'dropped',
    height: Math.log(0.8),
    kinds: ['title-rewrite', 'headings'],
    words: 'smoker guide headings',
  }),
  entry(3, { verdict: 'lifted', height: Math.log(1.5) }),
  entry(4, { withoutFigures: true, height: null }),
  entry(5, { verdict: 'held', height: 0.01 }),
  entry(6, { verdict: 'lifted', height: Math.log(1.9) }),
  entry(7),
];
const ids = (filter: Partial<LedgerFilter>) =>
  filterLedger(ENTRIES, { q: '', kind: 'any', verdict: 'any', sort: 'newest', ...filter }).map((e) => e.id);

test.each<[Partial<LedgerFilter>, number[]]>([
  [{}, [1, 2, 3, 4, 5, 6, 7]],
  [{ sort: 'oldest' }, [7, 6, 5, 4, 3, 2, 1]],
  [{ sort: 'rise' }, [6, 3, 7, 5, 2, 1, 4]],
  [{ sort: 'fall' }, [2, 5, 7, 3, 6, 1, 4]],
  [{ sort: 'verdict' }, [6, 3, 2, 5, 7, 1, 4]],
  [{ kind: 'headings' }, [2]],
  [{ verdict: 'waiting' }, [1]],
  [{ verdict: 'lifted' }, [3, 6]],
  [{ verdict: 'unclear' }, [7]],
  [{ verdict: 'none' }, [4]],
  [{ q: 'GUIDE  smoker' }, [2]],
  [{ q: 'nothing' }, []],
])('%p leaves %p', (filter, wanted) => {
  expect(ids(filter)).toEqual(wanted);
});

test('sorting leaves the list that was given as it is', () => {
  ids({ sort: 'oldest' });
  expect(ENTRIES.map((e) => e.id)).toEqual([1, 2, 3, 4, 5, 6, 7]);
});

test.each([
  [entry(1, { verdict: 'lifted' }), { figure: '20%', under: '\u22125% to +50%' }],
  [
    entry(1, {
      verdict: 'dropped',
      judged: 'position',
      effect: '1.2 places down',
      range: '2.0 down to 0.4 down',
    }),
    { figure: '1.2 places', under: 'Position 2.0 down to 0.4 down' },
  ],
  [entry(1, { judged: 'ctr' }), { figure: '', under: 'CTR \u22125% to +50%' }],
  [ENTRIES[0]!, { figure: '', under: 'until 15 Sep' }],
  [
    { ...ENTRIES[0]!, completeOn: null },
    { figure: '', under: 'for figures' },
  ],
  [
    { ...ENTRIES[0]!, planned: true },
    { figure: '', under: 'planned' },
  ],
  [ENTRIES[3]!, { figure: '', under: 'no figures for these days' }],
])('the gist of %#', (line, wanted) => {
  expect(gist(line)).toEqual(wanted);
});
