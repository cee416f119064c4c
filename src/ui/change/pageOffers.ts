import { twinKey } from '@/core/address/twins';
import { count, plural } from '@/core/words/format';

/** A page that can be chosen, by its path, with what helps to choose it. */
export type PageChoice = {
  readonly path: string;
  /** Clicks of the last 28 days; null where the page has no search figures at all. */
  readonly clicks: number | null;
  /** The path of the page that is the same but for its spelling and has search figures, where this one has none. */
  readonly twin: string | null;
  readonly group: string | null;
};

/** Something that can be picked: a page, or many in one go. */
export type Offer = {
  readonly key: string;
  readonly label: string;
  readonly detail: string;
  readonly pages: readonly string[];
};

const MOST_OFFERED = 12;
/** Fewer pages than this are as quickly picked one by one. */
const FEWEST_IN_ONE_GO = 2;
const MOST_GROUPS = 3;

/** The path of a page as it was written or pasted: of a whole URL its path, as lists of pages have it. */
export function pathWritten(page: string): string {
  if (!/^https?:\/\//i.test(page)) return page;
  try {
    const { pathname, search } = new URL(page);
    return pathname + search;
  } catch {
    return page;
  }
}

/** The page that is meant by a path without search figures; null where it has some, or none is near. */
export function twinOf(
  written: string,
  known: readonly PageChoice[],
  byPath: ReadonlyMap<string, PageChoice>,
): PageChoice | null {
  const path = pathWritten(written);
  const own = byPath.get(path);
  if (own) return own.clicks === null && own.twin !== null ? (byPath.get(own.twin) ?? null) : null;
  const key = twinKey(path);
  return known.find((page) => page.clicks !== null && twinKey(page.path) === key) ?? null;
}

/**
 * What is offered for what was typed: all pages under a path or of a group, then pages whose address has it, the most
 * clicked first. A page without search figures whose twin has them is offered as that twin. `known` is in that order.
 */
export function offersFor(
  typed: string,
  known: readonly PageChoice[],
  chosen: ReadonlySet<string>,
): readonly Offer[] {
  const plain = typed.toLowerCase();
  const left = known.filter(({ path, twin }) => !chosen.has(path) && twin === null);
  const inOneGo = (key: string, label: string, pages: readonly PageChoice[]): Offer[] =>
    pages.length < FEWEST_IN_ONE_GO
      ? []
      : [
          {
            key,
            label,
            detail: plural(
              pages.reduce((sum, { clicks }) => sum + (clicks ?? 0), 0),
              'click',
            ),
            pages: pages.map(({ path }) => path),
          },
        ];
  const under = plain.startsWith('/') ? left.filter(({ path }) => path.toLowerCase().startsWith(plain)) : [];
  const groups = [...new Set(left.flatMap(({ group }) => group ?? []))].filter(
    (group) => plain !== '' && group.toLowerCase().includes(plain),
  );
  // A twin may have the typed letters in its other spelling only.
  const found = known.flatMap((page) => {
    if (!page.path.toLowerCase().includes(plain)) return [];
    return [page.twin ?? page.path];
  });
  const byPath = new Map(known.map((page) => [page.path, page]));
  const single = [...new Set(found)].filter((path) => !chosen.has(path)).slice(0, MOST_OFFERED);
  const exact = single.includes(typed) || typed === '';
  const many = [
    ...inOneGo(`under ${plain}`, `All ${count(under.length)} pages under ${typed}`, under),
    ...groups.slice(0, MOST_GROUPS).flatMap((group) => {
      const pages = left.filter((page) => page.group === group);
      return inOneGo(`group ${group}`, `All ${count(pages.length)} pages of the group ${group}`, pages);
    }),
  ];
  const one = (path: string): Offer => {
    const clicks = byPath.get(path)?.clicks ?? null;
    const detail = clicks === null ? 'no search figures' : plural(clicks, 'click');
    return { key: path, label: path, detail, pages: [path] };
  };
  // The page that is typed in full comes first: Enter takes it, and not many in one go by mistake.
  const [first, ...others] =
    exact && typed !== '' ? [typed, ...single.filter((path) => path !== typed)] : single;
  return [
    ...(first === undefined ? [] : [one(first)]),
    ...many,
    ...others.map(one),
    ...(exact ? [] : [{ key: `as typed ${typed}`, label: `Use “${typed}”`, detail: '', pages: [typed] }]),
  ];
}
