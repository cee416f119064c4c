import type { Span } from '../../core/calendar/span';
import type { PageTraits } from '../../core/model/traits';
import { OPENING_KINDS, type OpeningKind } from '../../core/openings/kinds';
import type { NamedOpening } from '../../core/openings/named';
import type { Opening } from '../../core/openings/opening';
import type { SiteContext } from '../site/siteContext';
import { yieldToEventLoop } from '../site/turns';
import { inWords } from './inWords';
import { notBought } from './notBought';
import { outOfOrder } from './outOfOrder';
import { reachable } from './reachable';
import { shared } from './competingPages';
import { slipped } from './slipped';
import { tooLittle } from './tooLittle';
import { unlinked } from './unlinked';
import { unsaid } from './unsaid';
import { LEAST_CLICKS, searchContextOf, type Finders, type Found, type SearchContext } from './searchContext';

export type Openings = {
  readonly openings: readonly NamedOpening[];
  readonly span: Span;
  /** The appeal that counts as usual, and how many pages it was learned from. */
  readonly usual: number;
  readonly pages: number;
};

type Finder = (search: SearchContext, finders: Finders) => readonly Found[] | Promise<readonly Found[]>;

/** How the openings of each kind are found. */
const FINDERS: Readonly<Record<OpeningKind, Finder>> = {
  'chosen-too-little': tooLittle,
  'within-reach': reachable,
  unsaid,
  shared,
  slipped: (search, { shifts }) => slipped(search, shifts),
  unlinked: (search, { links }) => unlinked(search, links),
  'out-of-order': (search, { findings }) => outOfOrder(search, findings),
  'visited-not-bought': notBought,
};

/** Where work is likely to pay on a site, the best first; null where it has no figures. Others get their turn in between. */
export async function findOpenings(
  context: SiteContext,
  finders: Finders,
  span: Span,
): Promise<Openings | null> {
  const figures = finders.engines.figures(context.site);
  if (!figures) return null;
  const all = searchContextOf(context, figures, finders, span);
  const { traits, appeal } = all;
  const found: (Found & { readonly opening: Opening })[] = [];
  for (const kind of OPENING_KINDS) {
    await yieldToEventLoop();
    for (const one of await FINDERS[kind](all, finders))
      found.push({ ...one, opening: { kind, ...one.opening } });
  }
  const named = found
    .filter(
      ({ opening: { pageId, gain } }) =>
        !isSunk(traits, pageId) && (gain === null || gain.clicks >= LEAST_CLICKS),
    )
    .map((one) => inWords(all, one));
  const weight = ({ page, gain, conversions }: NamedOpening) =>
    (gain?.clicks ?? (conversions === null ? 0 : conversions * 10)) *
    (traits.get(page?.id ?? -1)?.weight ?? 1);
  const seen = ({ figures: { impressions = 0, sessions = 0 } }: NamedOpening) => impressions + sessions;
  return {
    openings: named.sort((a, b) => weight(b) - weight(a) || seen(b) - seen(a) || (a.key < b.key ? -1 : 1)),
    span,
    usual: appeal.level,
    pages: appeal.byPage.size,
  };
}

const isSunk = (traits: ReadonlyMap<number, PageTraits>, pageId: number | null) =>
  pageId !== null && traits.get(pageId)?.sink === true;
