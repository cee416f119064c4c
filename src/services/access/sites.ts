import { may, type Principal } from '../../core/access/rights';
import type { Site } from '../../core/model/site';
import type { Db } from '../../store/database';
import { listSites } from '../../store/sites';

/** The sites that somebody may see, in the order in which they were added. */
export function sitesOf(db: Db, asker: Principal): Site[] {
  return listSites(db).filter(({ id }) => may(asker, 'read', id));
}
