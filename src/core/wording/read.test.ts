import fc from 'fast-check';
import { resultsFromHtml } from './fromHtml';
import { resultsFromSheet, resultsFromText } from './fromText';
import { newResultPageSchema, MOST_RESULTS } from './resultPage';

const plain = ({ results }: ReturnType<typeof resultsFromText>) =>
  results.map(({ rank, title, address, description }) => [rank, title, address, description]);

test('rows of a sheet are read by the names of their columns, in any order', () => {
  const text =
    'Position\tURL\tTitle\tSnippet\tkind\n2\thttps://b.example/\tB\tof b\tshop\n1\ta.example › wax\tA\t\t';
  const found = resultsFromText(text);
  expect(plain(found)).toEqual([
    [2, 'B', 'https://b.example/', 'of b'],
    [1, 'A', 'https://a.example/wax', null],
  ]);
  expect(found.results[0]!.kind).toBe('shop');
  expect(plain(resultsFromText('title;address\n"A; and b";https://a.example/'))).toEqual([
    [1, 'A; and b', 'https://a.example/', null],
  ]);
  expect(
    plain(
      resultsFromSheet([
        ['Title', 'Address', 'Rank'],
        ['A', 'https://a.example/', 3],
        [null, '', null],
      ]),
    ),
  ).toEqual([[3, 'A', 'https://a.example/', null]]);
});

test('rows without a head are read by what stands in their columns', () => {
  const text =
    '1\tWax molds for candles\thttps://a.example/\tA long text that describes the molds in many words.\n2\tMolds\thttps://b.example/\tAnother text that is longer than its title.';
  expect(plain(resultsFromText(text))).toEqual([
    [1, 'Wax molds for candles', 'https://a.example/', 'A long text that describes the molds in many words.'],
    [2, 'Molds', 'https://b.example/', 'Another text that is longer than its title.'],
  ]);
});

test('results one below the other are read whether title or address comes first', () => {
  const titleFirst =
    '1. Wax molds\nhttps://a.example/\nOf silicone.\n\nCandle molds\nb.example › shop\nOf tin.\nAnd more.';
  expect(plain(resultsFromText(titleFirst))).toEqual([
    [1, 'Wax molds', 'https://a.example/', 'Of silicone.'],
    [2, 'Candle molds', 'https://b.example/shop', 'Of tin. And more.'],
  ]);
  const addressFirst = 'a.example › wax\nWax molds\nOf silicone.\nb.example\nCandle molds';
  expect(plain(resultsFromText(addressFirst))).toEqual([
    [1, 'Wax molds', 'https://a.example/wax', 'Of silicone.'],
    [2, 'Candle molds', 'https://b.example', null],
  ]);
});

/** Six invented layouts of the same two results, with what stands around them. */
const LAYOUTS: readonly (readonly [name: string, text: string])[] = [
  [
    'site name above the address, stars and price below',
    'Wax Molds of Silicone\nHive Shop\nhttps://hiveshop.example/molds\n★ 4.6 (120) · €12.90 · In stock\nOf silicone, for candles.\n\nHow to Pour Wax\nBeekeeping Notes\nbeekeepingnotes.example › wax\n14 Sep 2026 — Step by step.',
  ],
  [
    'address first, site name before it, date on a line of its own',
    'hiveshop.example › molds\nWax Molds of Silicone\n4.6/5 (120)\n€12.90\nOf silicone, for candles.\nbeekeepingnotes.example › wax\nHow to Pour Wax\n14 Sep 2026\nStep by step.',
  ],
  [
    'ads above, marked on a line of their own',
    'Sponsored\nBuy Molds Now\nhttps://ads.example/molds\nCheap molds.\nWax Molds of Silicone\nhttps://hiveshop.example/molds\nRating: 4.6 (120) · €12.90\nOf silicone, for candles.\nHow to Pour Wax\nhttps://beekeepingnotes.example/wax\n14 Sep 2026 · Step by step.',
  ],
  [
    'ads marked in the line of the address, questions in between',
    'Buy Molds Now\nAd · ads.example › molds\nCheap molds.\nWax Molds of Silicone\nhttps://hiveshop.example/molds\n★★★★☆ (120) | €12.90\nOf silicone, for candles.\nQuestions people ask\nWhich wax is best?\nHow hot must wax be?\nHow to Pour Wax\nhttps://beekeepingnotes.example/wax\nSep 14, 2026 — Step by step.',
  ],
  [
    'numbered, related queries at the end',
    '1. Wax Molds of Silicone\nhttps://hiveshop.example/molds\n4.6 stars (120 reviews) · 12.90 €\nOf silicone, for candles.\n2. How to Pour Wax\nhttps://beekeepingnotes.example/wax\n2026-09-14 – Step by step.\nRelated queries\nwax melting point\nbeeswax molds',
  ],
  [
    'questions and related queries above',
    'People ask:\nWhich wax is best?\nRelated searches\nwax melting point\nResults\nWax Molds of Silicone\nhttps://hiveshop.example/molds\n4.6/5\nfrom €12.90\nOf silicone, for candles.\nHow to Pour Wax\nhttps://beekeepingnotes.example/wax\n3 weeks ago · Step by step.',
  ],
];

test.each(LAYOUTS)('pasted, %s: results are told from what stands around them', (_name, text) => {
  const { results } = resultsFromText(text);
  expect(results.map(({ rank, title, description }) => [rank, title, description])).toEqual([
    [1, 'Wax Molds of Silicone', 'Of silicone, for candles.'],
    [2, 'How to Pour Wax', 'Step by step.'],
  ]);
  expect([...results[0]!.extras].sort()).toEqual(['price', 'stars']);
  expect([results[0]!.dateShown, results[1]!.extras]).toEqual([null, []]);
  expect(results[1]!.dateShown).toMatch(/14|ago/);
});

test('questions and related queries of a pasted page are read beside its results', () => {
  expect(resultsFromText(LAYOUTS[3]![1])).toMatchObject({
    asked: ['Which wax is best?', 'How hot must wax be?'],
    related: [],
  });
  expect(resultsFromText(LAYOUTS[5]![1])).toMatchObject({
    asked: ['Which wax is best?'],
    related: ['wax melting point'],
  });
  expect(resultsFromText(LAYOUTS[4]![1])).toMatchObject({ related: ['wax melting point', 'beeswax molds'] });
});

test('pasted JSON is read as rows', () => {
  const results = [{ rank: 2, url: 'https://b.example/', title: 'B', snippet: 'of b' }];
  for (const text of [
    JSON.stringify(results),
    JSON.stringify({ results }),
    JSON.stringify({ items: results }),
  ])
    expect(plain(resultsFromText(text))).toEqual([[2, 'B', 'https://b.example/', 'of b']]);
  expect(resultsFromText('[{"title": "A"').problem).toMatch(/cut off/);
  expect(resultsFromText('{"a": 1}').problem).toMatch(/holds no list of results/);
});

test('what is no results is refused in a sentence', () => {
  expect(resultsFromText('  ').problem).toBe('There is nothing in it.');
  expect(resultsFromText('Dear all,\nhere is the plan for the week.').problem).toMatch(
    /cannot be told where a result begins/,
  );
  expect(resultsFromText('x'.repeat(300_000)).problem).toMatch(/more text/);
  expect(
    resultsFromSheet([
      ['a', 'b'],
      ['c', 'd'],
    ]).problem,
  ).toMatch(/first row has to name/);
  expect(resultsFromHtml('<h1>Wax</h1><p>About wax.</p>').problem).toMatch(/no headings that are links/);
});

test('a saved page gives its linked headings with the text that follows, and its questions; nothing in it is run', () => {
  const html = `<nav><h3><a href="https://nav.example/">Nav</a></h3></nav>
    <a href="https://a.example/wax"><h3>Wax <b>molds</b></h3></a><div>a.example</div><span>Of silicone.</span>
    <script>window.hurt = 1</script>
    <h3><a href="https://go.example/to?url=https%3A%2F%2Fb.example%2F">&lt;img src=x onerror=alert(1)&gt;</a></h3><p>Of tin.</p>
    <h3><a href="/own/path">Own</a></h3><h3>How long does wax burn?</h3>`;
  const found = resultsFromHtml(html);
  expect(plain(found)).toEqual([
    [1, 'Wax molds', 'https://a.example/wax', 'a.example Of silicone.'],
    [2, '<img src=x onerror=alert(1)>', 'https://b.example/', 'Of tin.'],
  ]);
  expect(found.asked).toEqual(['How long does wax burn?']);
});

test('whatever is pasted or saved is read or refused, and never throws', () => {
  fc.assert(
    fc.property(fc.oneof(fc.string(), fc.string({ unit: 'grapheme' })), (text) => {
      expect(typeof (resultsFromText(text).problem ?? '')).toBe('string');
      expect(typeof (resultsFromHtml(text).problem ?? '')).toBe('string');
    }),
  );
});

test('a result page has so many results at most, each with a rank of its own, an address and a title', () => {
  const results = (n: number) =>
    Array.from({ length: n }, (_, i) => ({
      rank: i + 1,
      address: `https://a.example/${i}`,
      title: `T ${i}`,
    }));
  const of = (given: unknown[]) =>
    newResultPageSchema.safeParse({ query: 'Wax', day: '2026-11-21', results: given });
  expect(of(results(MOST_RESULTS)).success).toBe(true);
  const problem = (given: unknown[]) => of(given).error?.issues[0]?.message;
  expect(problem(results(500))).toMatch(/At most 100 results/);
  expect(problem([...results(2), ...results(1)])).toBe('Two results have the same rank.');
  expect(problem([{ rank: 1, address: 'javascript:alert(1)', title: 'T' }])).toMatch(/begins with https/);
  expect(problem([])).toBe('There is no result in it.');
});
