import { isoDay } from '../../core/calendar/day';
import { pagePath } from '../../core/address/address';
import type { PageRef } from '../../core/model/change';
import type { PatternValues } from '../../core/wording/patterns';
import { latestEvidence } from '../../store/evidence/snapshots';
import { listPages } from '../../store/addresses/pages';
import { pageTraits } from '../../store/traits/traits';
import { draftsOf } from '../../store/wording/drafts';
import type { SiteContext } from '../site/siteContext';

/** A page among several that are drafted for together. */
export type PageToDraft = {
  readonly page: PageRef;
  readonly path: string;
  /** Its title as it was last fetched. */
  readonly present: string | null;
  /** What a pattern can name of it. */
  readonly values: PatternValues;
  /** The last of its drafts. */
  readonly draft: string | null;
};

/** More pages are no round that anybody could work in. */
export const MOST_PAGES = 200;

/**
 * The pages that some lines name, a line each with a draft beside it (after a tab) where there is one, and the lines that name none. Without
 * lines the pages whose paths have some words in them.
 */
export function pagesToDraft(
  context: SiteContext,
  { lines, words }: { readonly lines: readonly string[]; readonly words: readonly string[] },
): { readonly pages: (PageToDraft & { readonly given: string | null })[]; readonly unknown: string[] } {
  const { db, site, today } = context;
  const pages = listPages(db, site.id);
  const byPath = new Map(
    pages.flatMap((page) => [[pagePath(page.address), page] as const, [page.address, page] as const]),
  );
  const unknown: string[] = [];
  const wanted: [PageRef, string | null][] =
    lines.length > 0
      ? lines.flatMap((line) => {
          const [named = '', ...rest] = line.split('\t').map((cell) => cell.trim());
          const page = byPath.get(named) ?? byPath.get(`${named}/`) ?? byPath.get(named.replace(/\/$/, ''));
          if (!page) {
            unknown.push(named);
            return [];
          }
          return [[page, rest.at(-1) || null] as [PageRef, string | null]];
        })
      : words.length === 0
        ? []
        : pages
            .filter(({ address }) => words.every((word) => pagePath(address).toLowerCase().includes(word)))
            .map((page): [PageRef, null] => [page, null]);
  const evidence = latestEvidence(db, site.id);
  const traits = pageTraits(db, site.id);
  const year = isoDay(today).slice(0, 4);
  const seen = new Set<number>();
  return {
    unknown,
    pages: wanted
      .filter(([page]) => !seen.has(page.id) && seen.add(page.id))
      .slice(0, MOST_PAGES)
      .map(([page, given]) => {
        const snapshot = evidence.get(page.id)?.evidence;
        const target = traits.get(page.id)?.target ?? undefined;
        const heading = snapshot?.headings.find(({ level }) => level === 1)?.text;
        const title = snapshot?.title ?? undefined;
        return {
          ...{ page, path: pagePath(page.address), present: title ?? null, given },
          values: {
            ...{ site: site.name, year },
            ...(target ? { target } : heading ? { target: heading } : {}),
            ...(title ? { title } : {}),
            ...(heading ? { heading } : {}),
          },
          draft: draftsOf(db, [page.id], 'title').findLast(({ text }) => text !== title)?.text ?? null,
        };
      }),
  };
}
