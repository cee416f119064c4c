import { pageGroups } from '../../core/effect/groups';
import type { Site } from '../../core/model/site';
import { listPages } from '../../store/addresses/pages';
import type { Db } from '../../store/database';
import { pageAttribute } from '../../store/figures/attributes';

/** The names of the parts of a site, as files state them or its paths show them. */
export function pageGroupNames(db: Db, site: Site): string[] {
  const pages = listPages(db, site.id);
  const stated = pageAttribute(db, site.id, 'group');
  const { names } = pageGroups(
    pages.map(({ address }) => address),
    pages.map(({ id }) => stated.get(id) ?? null),
  );
  return names.filter((name) => name !== '');
}
