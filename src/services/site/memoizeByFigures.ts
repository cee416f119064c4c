import { LRUCache } from 'lru-cache';
import type { Site } from '../../core/model/site';
import type { Db } from '../../store/database';
import { figuresStamp } from '../../store/figures/figuresStamp';

type Kept<T> = { readonly stamp: string; readonly made: T };

/** Memoizes values by site, name and shown figures; `most` per database. */
export function memoizeByFigures<T extends object>(most: number) {
  const kept = new WeakMap<Db, LRUCache<string, Kept<T>>>();
  return ({ db, site }: { readonly db: Db; readonly site: Site }, name: string, make: () => T): T => {
    const ofDb = kept.get(db) ?? new LRUCache<string, Kept<T>>({ max: most });
    kept.set(db, ofDb);
    const stamp = figuresStamp(db, site.id);
    const slot = `${site.id}/${name}`;
    const known = ofDb.get(slot);
    if (known?.stamp === stamp) return known.made;
    const made = make();
    ofDb.set(slot, { stamp, made });
    return made;
  };
}
