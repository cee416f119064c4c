import { pagePath } from '../address/address';
import { longDay } from '../words/format';
import type { Carrier } from './readingModel';

/**
 * A sentence on which URL carried a page’s figures until when, and which from then on; empty if one
 * did throughout. Carriers are in the order of their first days.
 */
export function carriersClause(carriers: readonly Carrier[]): string {
  const [first, ...others] = carriers;
  const last = others.at(-1);
  if (!first || !last) return '';
  const from = `from ${longDay(last.firstDay)} on ${pagePath(last.address)}`;
  const until = `Until ${longDay(first.lastDay)} ${pagePath(first.address)} carried the figures`;
  const between =
    others.length > 1
      ? `, then ${others
          .slice(0, -1)
          .map((one) => pagePath(one.address))
          .join(', ')}`
      : '';
  const both = first.lastDay >= last.firstDay ? '; in between both did' : '';
  return `${until}${between}, ${from}${both}.`;
}
