import { isNamed, namedError } from './errors';

class Refused extends namedError('Refused') {
  constructor(readonly seconds: number) {
    super(`Try again in ${seconds} seconds.`);
  }
}
/** What the same class is in another bundle. */
class Again extends namedError('Refused') {}

test('an error is an instance of each copy of its class, and of no other', () => {
  const error: unknown = new Refused(3);
  expect(error).toBeInstanceOf(Refused);
  expect(error).toBeInstanceOf(Again);
  expect(error).toBeInstanceOf(Error);
  expect(error).not.toBeInstanceOf(namedError('Other'));
  expect(error instanceof Refused && error.seconds).toBe(3);
  expect(String(error)).toBe('Refused: Try again in 3 seconds.');
});

test.each([null, undefined, 'Refused', 7, new Error('Refused')])('%p bears no such name', (thrown) => {
  expect(isNamed(thrown, 'Refused')).toBe(false);
  expect(thrown).not.toBeInstanceOf(Refused);
});
