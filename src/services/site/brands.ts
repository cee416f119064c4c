import type { Site } from '../../core/model/site';
import type { QueryTraits } from '../../core/model/traits';
import { isBrandQuery } from '../../core/reasons/brand';
import { brandWordsOf } from './siteFigures';

/** Whether a query is for the site itself: as it was said, else by the words of the brand. */
export function brandTest(
  site: Site,
  traits: ReadonlyMap<number, QueryTraits>,
  texts: ReadonlyMap<number, string>,
): (query: number) => boolean {
  const words = brandWordsOf(site);
  const known = new Map<number, boolean>();
  return (id) => {
    let brand = known.get(id);
    if (brand === undefined) {
      brand = traits.get(id)?.brand ?? isBrandQuery(texts.get(id) ?? '', words);
      known.set(id, brand);
    }
    return brand;
  };
}
