import { staysAside } from './aside';

test('what was put aside stays so until it would bring half as much again', () => {
  expect(staysAside(40, 60)).toBe(true);
  expect(staysAside(40, 61)).toBe(false);
});

test('of little, it takes some clicks more', () => {
  expect(staysAside(2, 7)).toBe(true);
  expect(staysAside(2, 8)).toBe(false);
});

test('what nobody put aside is never aside', () => {
  expect(staysAside(null, 0)).toBe(false);
});

test('what has no estimate stays aside', () => {
  expect(staysAside(0, 0)).toBe(true);
});
