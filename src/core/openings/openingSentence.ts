/* An opening in words. */

import { pagePath } from '../address/address';
import { KINDS } from './kinds';
import type { Named } from './kinds/kind';
import type { NamedOpening } from './named';
import type { Opening } from './opening';

/** The evidence of an opening, as a client could read it. */
export function openingSentence(
  { kind, figures }: Pick<Opening, 'kind' | 'figures'>,
  named: Named = {},
): string {
  return KINDS[kind].sentence((figure) => figures[figure] ?? 0, named);
}

/** What an opening is about: its page, its search, or its search on its page. */
export function nameOf({ page, query, kind }: Pick<NamedOpening, 'page' | 'query' | 'kind'>): string {
  const path = page ? pagePath(page.address) : '';
  if (!query) return path;
  return KINDS[kind].rows.of === 'query' || !page ? `“${query.text}”` : `“${query.text}” on ${path}`;
}
