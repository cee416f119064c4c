import { pageKeyMaker } from './rules';
import { DEFAULT_ADDRESS_RULES } from '../model/addressRules';
import { rulesJoining, spellingsApart, twinKey } from './twins';

const HOME = 'https://www.quillow-bees.example';

test.each([
  ['/guides/wasps', '/guides/wasps/', ['slash']],
  ['/Guides/Wasps/', '/guides/wasps/', ['case']],
  ['/guides/index.html', '/guides/', ['index']],
  ['/guides/index.php', '/guides', ['slash', 'index']],
  ['/Guides', '/guides/', ['slash', 'case']],
  ['/?id=1', '/?id=2', null],
  ['/guides/wasps', '/guides/wasp', null],
  ['/guides/?size=l', '/guides?size=l', ['slash']],
  ['/same/', '/same/', null],
])('%s and %s differ by %j', (one, other, spellings) => {
  expect(spellingsApart(HOME + one, HOME + other)).toEqual(spellings);
  if (spellings) expect(twinKey(HOME + one)).toBe(twinKey(HOME + other));
});

test('scheme and www. are a spelling too', () => {
  expect(spellingsApart('http://quillow-bees.example/a/', `${HOME}/a/`)).toEqual(['scheme']);
});

test('the rules that are proposed do join what they are proposed for, the way most addresses are written', () => {
  const pairs = [
    [
      ['/a', '/b/c'],
      ['/a/', '/b/c/'],
    ],
    [['/A/index.html'], ['/a/']],
    [['/Shop'], ['/shop/']],
  ] as const;
  for (const [strays, written] of pairs) {
    const spellings = spellingsApart(HOME + strays[0], HOME + written[0])!;
    const rules = rulesJoining(
      DEFAULT_ADDRESS_RULES,
      spellings,
      written.map((path) => HOME + path),
    );
    const keyOf = pageKeyMaker(HOME, rules);
    strays.forEach((path, i) => {
      expect(keyOf(HOME + path)).toBe(keyOf(HOME + written[i]));
      expect(keyOf(HOME + written[i])).toBe(HOME + written[i]);
    });
  }
});
