import fc from 'fast-check';
import { ownPath } from './ownPath';

test.each(['/', '/sites/1/ledger?kind=title#top', '/pass/abc', '/sites/1/find?q=%2F%2Fbees'])(
  '%p stays as it is',
  (path) => expect(ownPath(path)).toBe(path),
);

test.each([
  ...['//other.example', '/\\other.example', '/\t/other.example', '/\n/other.example', '\\\\other.example'],
  ...['/.//other.example', '/..//other.example', '/a/..//other.example', 'https://other.example/', 'other'],
  ...['/\r\n//other.example', ' //other.example', 'javascript:alert(1)', '', null, ['/'], undefined],
])('%p leads to the first screen', (path) => expect(ownPath(path)).toBe('/'));

test('whatever it is given, a browser stays on the server', () => {
  const parts = fc.constantFrom(
    '/',
    '\\',
    '.',
    '..',
    '\t',
    '\n',
    '%09',
    '@',
    ':',
    'a.example',
    '?',
    '#',
    ' ',
  );
  fc.assert(
    fc.property(fc.array(parts, { maxLength: 8 }), (list) => {
      const path = ownPath(`/${list.join('')}`);
      expect(new URL(path, 'https://tally.quillow-bees.example').host).toBe('tally.quillow-bees.example');
    }),
    { numRuns: 2000 },
  );
});
