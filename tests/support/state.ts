import { GRAIN_KEYS, GRAINS } from '@/core/facts/grains';
import type { Db } from '@/store/database';
import { standingFacts } from '@/store/figures/layers';
import { labelText, queryText } from '@/store/figures/queryIds';
import { siteSeries } from '@/store/figures/series';

const text = (db: Db, id: number): string =>
  db.$client.prepare<[number], string>('SELECT text FROM address WHERE id = ?').pluck().get(id)!;

/** All facts of a site that count, in words and in order: what it means, whatever numbers things have. */
export function factsOf(db: Db, siteId: number): string[] {
  const lines: string[] = [];
  for (const grain of GRAIN_KEYS) {
    for (const { addressId, facts } of standingFacts(db, siteId, grain)) {
      for (let i = 0; i < facts.rows; i++) {
        const names = [text(db, addressId), queryText(db, facts.query[i]!), labelText(db, facts.country[i]!)];
        const values = GRAINS[grain].values.map((_, v) => facts.values[v]![i]);
        lines.push(JSON.stringify([grain, ...names, facts.day[i], facts.device[i], ...values]));
      }
    }
  }
  const attributes = db.$client
    .prepare<[number], Record<string, unknown>>(
      `SELECT t.subject, coalesce(a.text, q.text) AS text, t.name, t.value, max(i.layer)
       FROM attribute t JOIN import i ON i.id = t.import_id
       LEFT JOIN address a ON t.subject = 'page' AND a.id = t.subject_id
       LEFT JOIN query q ON t.subject = 'query' AND q.id = t.subject_id
       WHERE i.state = 'done' AND i.site_id = ? GROUP BY t.subject, t.subject_id, t.name`,
    )
    .all(siteId)
    .map((row) => JSON.stringify([row.subject, row.text, row.name, row.value]));
  return [...lines, ...attributes].sort();
}

/** Everything that is derived from the facts of a site, in words. */
export function derivedOf(db: Db, siteId: number): string[] {
  const address = db.$client.prepare<[number], string>('SELECT address FROM page WHERE id = ?').pluck();
  const series = [0, 1, 2, 3, 4].flatMap((device) =>
    siteSeries(db, siteId, device).map(({ id, firstDay, clicks, impressions, ...rest }) =>
      JSON.stringify([
        ...[address.get(id), device, firstDay, [...Array.from(clicks)], Array.from(impressions)],
        // Sums of fractions depend on their order in the last digit.
        Array.from(rest.positionSum, (sum) => Number(sum.toPrecision(9))),
        Array.from(rest.positionWeight),
        Array.from(rest.present),
      ]),
    ),
  );
  const pages = db.$client
    .prepare<[number], string>('SELECT address FROM page WHERE site_id = ?')
    .pluck()
    .all(siteId);
  return [...series, ...pages].sort();
}

/** All of a site that files bring about. */
export function stateOf(db: Db, siteId: number): string[] {
  return [...factsOf(db, siteId), ...derivedOf(db, siteId)];
}
