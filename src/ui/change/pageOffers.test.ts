import { offersFor, twinOf, type PageChoice, pathWritten } from './pageOffers';

const page = (path: string, clicks: number | null, over: Partial<PageChoice> = {}): PageChoice => ({
  ...{ path, clicks, twin: null, group: null },
  ...over,
});
/** As they come: the most clicked first. */
const KNOWN = [
  page('/guides/how-to-splice-rope/', 410, { group: 'Ropes' }),
  page('/guides/knots/', 120, { group: 'Ropes' }),
  page('/guides/', 30),
  page('/shop/rope/', 4),
  page('/guides/how-to-splice-rope', null, { twin: '/guides/how-to-splice-rope/' }),
  page('/guides/new/', null),
];
const labels = (typed: string, chosen: string[] = []) =>
  offersFor(typed, KNOWN, new Set(chosen)).map(({ label, detail }) => [label, detail]);

test('pages are offered with their clicks, the most clicked first, and a twin without figures as its twin', () => {
  expect(labels('splice')).toEqual([
    ['/guides/how-to-splice-rope/', '410 clicks'],
    ['Use “splice”', ''],
  ]);
  // Typed in full, the wrong spelling still leads to the page that has the figures.
  expect(labels('/guides/how-to-splice-rope')[0]).toEqual(['/guides/how-to-splice-rope/', '410 clicks']);
});

test('all pages under a path and of a group are offered in one go, with their count and clicks', () => {
  const under = offersFor('/guides/', KNOWN, new Set());
  // The page of that very path first, so that Enter does not take many by mistake.
  expect(under[0]).toMatchObject({ label: '/guides/', pages: ['/guides/'] });
  expect(under[1]).toEqual({
    key: 'under /guides/',
    label: 'All 4 pages under /guides/',
    detail: '560 clicks',
    pages: ['/guides/how-to-splice-rope/', '/guides/knots/', '/guides/', '/guides/new/'],
  });
  expect(labels('ropes')).toEqual([
    ['All 2 pages of the group Ropes', '530 clicks'],
    ['Use “ropes”', ''],
  ]);
  // What is chosen already is not offered again.
  expect(labels('/guides/', ['/guides/knots/'])[1]![0]).toBe('All 3 pages under /guides/');
  expect(labels('/shop/').map(([label]) => label)).toEqual(['/shop/rope/', 'Use “/shop/”']);
});

test('of a chosen page without figures its twin is known, also where the site has no such page yet', () => {
  const byPath = new Map(KNOWN.map((one) => [one.path, one]));
  const twin = (path: string) => twinOf(path, KNOWN, byPath)?.path ?? null;
  expect(twin('/guides/how-to-splice-rope')).toBe('/guides/how-to-splice-rope/');
  expect(twin('/Guides/Knots')).toBe('/guides/knots/');
  expect([twin('/guides/new/'), twin('/guides/knots/'), twin('/nowhere/')]).toEqual([null, null, null]);
});

test('a pasted URL is the page of its path', () => {
  expect(pathWritten('https://www.quillow-bees.example/guides/wasps/?a=1')).toBe('/guides/wasps/?a=1');
  expect(pathWritten('https://www.quillow-bees.example')).toBe('/');
  expect([pathWritten('/guides/'), pathWritten('https://')]).toEqual(['/guides/', 'https://']);
});
