import { addDays } from '../calendar/day';
import { change, DAY } from '../../../tests/support/readingInput';
import type { Difference } from './differences';
import { isSame, titleCheck } from './titleCheck';
import { unloggedOf } from './unlogged';

const TITLE: Difference = { aspect: 'title', kind: 'title-rewrite', before: 'Old', after: 'New' };
const LINKS: Difference = { aspect: 'links', kind: 'internal-links', before: null, after: '/a' };
const IDLE: Difference = { aspect: 'text', kind: 'body-copy', before: '3 left', after: '2 left' };
const BOTH = [TITLE, LINKS, IDLE];
const [from, to] = [addDays(DAY, -3), addDays(DAY, 3)];

describe('unloggedOf', () => {
  test('what looks like work and nobody logged', () =>
    expect(unloggedOf(BOTH, from, to, [])).toEqual([TITLE, LINKS]));

  test.each([
    ['a change of its kind accounts for it', change(), [LINKS]],
    [
      'so does a part of one',
      change({
        kind: 'speed',
        parts: [{ kind: 'internal-links', page: null, oldText: null, newText: null }],
      }),
      [TITLE],
    ],
    ['an undo accounts for everything', change({ kind: 'undo' }), []],
    ['and so does a kind of one’s own', change({ kind: 'price-table' }), []],
    ['a reindex request for nothing', change({ kind: 'reindex-request' }), [TITLE, LINKS]],
    ['nor does a change before these days', change({ day: addDays(from, -1) }), [TITLE, LINKS]],
    ['nor one that is only planned', change({ steps: { planned: DAY } }), [TITLE, LINKS]],
  ])('%s', (_case, logged, left) => {
    expect(unloggedOf(BOTH, from, to, [logged])).toEqual(left);
  });
});

describe('titleCheck', () => {
  const at = (title: string) => ({ title, day: DAY });
  test.each([
    ['New', 'New', 'New', 'same'],
    ['New', 'Old', 'New', 'results-old'],
    ['New', 'Old', null, 'results-old'],
    ['Old', 'New', 'New', 'page-old'],
    ['Old', 'Old', 'New', 'page-old'],
    ['New', 'Something else', 'New', 'reworded'],
    ['New', null, 'New', 'not-looked'],
    ['Old', null, 'New', 'page-old'],
    [null, 'Old', 'New', 'not-looked'],
    [null, null, null, 'not-looked'],
  ])('page %p, results %p, meant %p: %s', (page, results, meant, state) => {
    const input = {
      onPage: page === null ? null : at(page),
      inResults: results === null ? null : at(results),
    };
    expect(titleCheck({ ...input, earlier: ['Old'] }, meant).state).toBe(state);
  });

  test('a title cut short is the same', () => {
    expect(isSame('How to light a bee …', 'How to light a bee smoker')).toBe(true);
    expect(isSame('How to light a bee...', 'How to light a bee smoker')).toBe(true);
    expect(isSame('How  to light', 'How to light')).toBe(true);
    expect(isSame('Ho…', 'How to light')).toBe(false);
    expect(isSame('How to keep a bee …', 'How to light a bee smoker')).toBe(false);
  });
});
