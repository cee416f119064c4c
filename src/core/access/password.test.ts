import { passwordProblem } from './password';

const COMMON = new Set(['password', 'qwertyuiop', 'iloveyou', 'correcthorse']);
const of = (password: string) => passwordProblem(password, COMMON, ['mk@quillow-bees.example', 'Maren K']);

test('what is long and not known is taken, whatever it is made of', () => {
  for (const good of [
    'quiet smoker on the hill',
    'ÜüßçФы一二三四五六',
    'x7!kP2@qW9#zQ',
    '🐝🐝🐝🐝🌻🌻🌻🌻🍯🍯🍯🍯a1b2',
  ])
    expect([good, of(good)]).toEqual([good, null]);
  expect(of('a b '.repeat(16))).toMatch(/too few/);
  expect(of('honey super frames '.repeat(3).slice(0, 64))).toBeNull();
});

test('what is short, endless, common or one’s own is not', () => {
  expect(of('short pass')).toMatch(/at least 12/);
  expect(of(`${'long enough '.repeat(11)}`)).toMatch(/at most 128/);
  expect(of('PasswordPassword')).toMatch(/tried first/);
  expect(of('password1234')).toMatch(/tried first/);
  expect(of('1234qwertyuiop')).toMatch(/tried first/);
  expect(of('aaaaaaaaaaaaaaa')).toMatch(/too few/);
  expect(of('mk@quillow-bees.example')).toMatch(/your own/);
});
