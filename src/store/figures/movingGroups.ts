import { prepared, type Db } from '../database';
import { writeFigures } from '../write';

/** A name that was given to a group of pages that move together, with the pages it had then. */
export type NamedGroup = { readonly id: number; readonly name: string; readonly pages: readonly number[] };

export function namedGroups(db: Db, siteId: number): NamedGroup[] {
  return prepared<[number], { id: number; name: string; pages: string }>(
    db,
    'SELECT id, name, pages FROM moving_group WHERE site_id = ? ORDER BY id',
  )
    .all(siteId)
    .map(({ id, name, pages }) => ({ id, name, pages: JSON.parse(pages) as number[] }));
}

/**
 * Names a group by its pages, replacing the name that most of them had; an empty name removes it.
 */
export function nameGroup(db: Db, siteId: number, pages: readonly number[], name: string): Promise<void> {
  return writeFigures(db, () => {
    const earlier = mostAlike(namedGroups(db, siteId), pages);
    if (earlier) prepared(db, 'DELETE FROM moving_group WHERE id = ?').run(earlier.id);
    if (name === '') return;
    prepared(db, 'INSERT INTO moving_group (site_id, name, pages) VALUES (?, ?, ?)').run(
      siteId,
      name,
      JSON.stringify(pages),
    );
  });
}

/**
 * The named group that shares more than half of all pages of both with `pages`; null if none does.
 */
export function mostAlike(named: readonly NamedGroup[], pages: readonly number[]): NamedGroup | null {
  const own = new Set(pages);
  const alike = (one: NamedGroup) => {
    const shared = one.pages.filter((id) => own.has(id)).length;
    return shared / (own.size + one.pages.length - shared);
  };
  const [best] = [...named].sort((a, b) => alike(b) - alike(a));
  return best && alike(best) > 0.5 ? best : null;
}
