/*
 * Two people, one thing: an edit says which fields it changes and what stood there when it began. Where somebody else has changed one
 * of them to something else meanwhile, nobody's text is taken back in silence.
 */

type Fields = Readonly<Record<string, unknown>>;

/** An empty text and none are one. */
const plain = (value: unknown) => JSON.stringify(value === '' ? null : (value ?? null));
const same = (a: unknown, b: unknown) => plain(a) === plain(b);

/** The fields, with their values, in which what is wished differs from what there was. */
export function editedFields<T extends object>(base: T, wished: T): Partial<T> {
  const fields = Object.entries(wished).filter(([name, value]) => !same(value, (base as Fields)[name]));
  return Object.fromEntries(fields) as Partial<T>;
}

/** Those fields of something that an edit names, as they were when it began. */
export function fieldsOf<T extends object>(thing: T, names: readonly string[]): Partial<T> {
  return Object.fromEntries(Object.entries(thing).filter(([name]) => names.includes(name))) as Partial<T>;
}

/**
 * The fields that an edit and somebody else have both changed since it began, to different things.
 * @example fieldsInConflict({ note: 'mine' }, { note: '' }, { note: 'theirs' }) // ['note']
 */
export function fieldsInConflict(edit: Fields, base: Fields, now: Fields): string[] {
  return Object.keys(edit).filter(
    (name) => Object.hasOwn(base, name) && !same(base[name], now[name]) && !same(edit[name], now[name]),
  );
}
