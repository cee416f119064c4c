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
