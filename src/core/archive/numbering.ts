/**
 * The things of a site that are named by number, in an archive from 1 on in their order: so the same site has the same
 * archive wherever it stands, whatever other sites were there before it.
 */
export const NUMBERED = [
  'site',
  'page',
  'query',
  'address',
  'feed',
  'import',
  'layer',
  'change',
  'event',
  'snapshot',
  'results',
  'round',
  'routine',
  'report',
] as const;
export type Numbered = (typeof NUMBERED)[number];

/** Gives the number that a thing has on the other side; null where it is no longer there. */
export type Renumber = (kind: Numbered, number: number) => number | null;

/** Where within a JSON value numbers of things stand: steps from the outside in, `*` for every entry of a list. */
export type NumberPath = readonly [path: string, kind: Numbered];

/** Stands for a thing that was gone when the archive was made. */
export const GONE = 0;

/**
 * A JSON value with the numbers at some paths replaced. Paths that lead nowhere are passed over.
 * @example renumbered({ id: 7, pages: [{ id: 3 }] }, [['id', 'change'], ['pages.*.id', 'page']], (kind, n) => n + 10)
 * // { id: 17, pages: [{ id: 13 }] }
 */
export function renumbered(value: unknown, paths: readonly NumberPath[], renumber: Renumber): unknown {
  return paths.reduce((now, [path, kind]) => replaced(now, path.split('.'), kind, renumber), value);
}

function replaced(
  value: unknown,
  [step, ...rest]: readonly string[],
  kind: Numbered,
  renumber: Renumber,
): unknown {
  if (step === undefined)
    return typeof value === 'number' && value !== GONE ? (renumber(kind, value) ?? GONE) : value;
  if (step === '*')
    return Array.isArray(value) ? value.map((entry) => replaced(entry, rest, kind, renumber)) : value;
  if (typeof value !== 'object' || value === null || !Object.hasOwn(value, step)) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, entry]) => [
      key,
      key === step ? replaced(entry, rest, kind, renumber) : entry,
    ]),
  );
}

/** What the first number in the key of a thing on the desk is of, by the kind that the key begins with. */
const DESK: Readonly<Record<string, Numbered>> = {
  'round-due': 'round',
  'routine-due': 'routine',
  unlogged: 'snapshot',
  'fell-back': 'page',
};

/**
 * The key of a thing on the desk, with its number replaced.
 * @example deskKeyRenumbered('review-due/7', (kind, n) => n + 10) // 'review-due/17'
 */
export function deskKeyRenumbered(key: string, renumber: Renumber): string {
  return key.replace(/^([a-z-]+)\/(\d+)/, (_, kind: string, number: string) => {
    const of = Object.hasOwn(DESK, kind) ? DESK[kind]! : 'change';
    return `${kind}/${renumber(of, Number(number)) ?? GONE}`;
  });
}

/** Days of the two spans, then numbers of pages, as a kept reading names what it is of. */
const SPAN_DAYS = 4;

/** What a kept reading says it is of, with the numbers of its pages replaced. */
export function readingOfRenumbered(about: string, renumber: Renumber): string {
  return about
    .split(' ')
    .map((word, i) => (i < SPAN_DAYS ? word : String(renumber('page', Number(word)) ?? GONE)))
    .join(' ');
}
