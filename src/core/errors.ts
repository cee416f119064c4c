/**
 * Returns a base class for errors of one name, with `instanceof` by name instead of by identity.
 * The server loads a module once for each bundle, so an error is often thrown by one copy of its
 * class and caught with another.
 *
 * @example class InputError extends namedError('InputError') {}
 */
export function namedError(name: string) {
  return class extends Error {
    override readonly name = name;

    static override [Symbol.hasInstance](error: unknown): boolean {
      return isNamed(error, name);
    }
  };
}

/**
 * Whether something thrown bears a name, such as an error of a library that is loaded more than
 * once.
 */
export function isNamed(error: unknown, name: string): boolean {
  return typeof error === 'object' && error !== null && (error as { name?: unknown }).name === name;
}
