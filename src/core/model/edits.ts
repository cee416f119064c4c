/*
 * Two people, one thing: an edit says which fields it changes and what stood there when it began. Where somebody else has changed one
 * of them to something else meanwhile, nobody's text is taken back in silence.
 */

type Fields = Readonly<Record<string, unknown>>;

/** A value without what typing it changes: absent and empty are one, and numbers have twelve digits. */
function plain(value: unknown): unknown {
  if (value === '' || value === undefined) return null;
  // What was typed and is no number is an edit as well, to be refused; JSON would make it null.
  if (Number.isNaN(value)) return 'NaN';
  if (typeof value === 'number') return Number(value.toPrecision(12));
  if (Array.isArray(value)) return value.map(plain);
  if (typeof value !== 'object' || value === null) return value;
  const fields = Object.entries(value).map(([name, one]) => [name, plain(one)] as const);
  return Object.fromEntries(fields.filter(([, one]) => one !== null).sort(([a], [b]) => (a < b ? -1 : 1)));
}
const same = (a: unknown, b: unknown) => JSON.stringify(plain(a)) === JSON.stringify(plain(b));

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
