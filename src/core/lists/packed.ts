/* Long lists on their way to a screen. */

declare const of: unique symbol;

/**
 * The lines of a long list as one text. What a screen is drawn from crosses several boundaries, and at each one a list is copied
 * value by value; a text is passed on as it is.
 */
export type Packed<T> = string & { readonly [of]: T };

/**
 * Packs lines that are alike in their fields, of what JSON can say: no maps, no NaN, nothing absent but null. The names of the fields
 * are said once.
 *
 * @example packed([{ id: 7, title: 'a' }, { id: 8, title: 'b' }]) // '[["id","title"],[7,"a"],[8,"b"]]'
 */
export function packed<T extends object>(lines: readonly T[]): Packed<T> {
  const names = Object.keys(lines[0] ?? {}) as (keyof T)[];
  return JSON.stringify([names, ...lines.map((line) => names.map((name) => line[name]))]) as Packed<T>;
}

/** The lines that were packed. */
export function unpacked<T extends object>(text: Packed<T>): T[] {
  const [names, ...lines] = JSON.parse(text) as [string[], ...unknown[][]];
  return lines.map((values) => Object.fromEntries(names.map((name, i) => [name, values[i]])) as T);
}
