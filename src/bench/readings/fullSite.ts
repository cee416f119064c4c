import { randomLcg, randomNormal, randomPoisson } from 'd3-random';
import { addDays, asDay, isoDay } from '../../core/calendar/day';
import { emptyFacts } from '../../core/facts/facts';
import { sortAndPack, type AddressedRows } from '../../core/facts/sortAndPack';
import { newChangeSchema } from '../../core/model/change';
import type { Site } from '../../core/model/site';
import { ImportWriter } from '../../store/figures/arrival';
import { addChange } from '../../store/ledger/changes';
import type { Db } from '../../store/database';
import { addImport } from '../../store/figures/imports';
import { addSite } from '../../store/sites';

/** How large the site is made. */
export type Size = {
  readonly pages: number;
  readonly days: number;
  readonly changes: number;
  readonly queriesAPage: number;
  readonly rowsAQuery: number;
};

const FIRST_DAY = asDay(20_000);

/** Fills an empty database with a site of full size: daily totals, rows by query, and changes, by a fixed seed. */
export async function makeFullSite(db: Db, size: Size): Promise<Site> {
  const site = await addSite(db, { name: 'Bench', address: 'https://www.quillow-bees.example' });
  const random = randomLcg(0.31);
  const normal = randomNormal.source(random)();
  const addresses = Array.from(
    { length: size.pages },
    (_, i) => `${site.address}/part-${(i + 1) % 7}/page-${i + 1}/`,
  );
  const known = size.queriesAPage * 20;
  const queries = ['', ...Array.from({ length: known }, (_, i) => `search number ${i + 1}`)];

  const totals = new ImportWriter(db, await newImport(db, site.id, size), site, 'page_day', null);
  await totals.name({ addresses, queries: [''], labels: [''] });
  let read = 0;
  for (let at = 0; at < size.pages; at++) {
    const level = Math.exp(0.8 + 1.5 * normal());
    const [clicks, more] = [randomPoisson.source(random)(level), randomPoisson.source(random)(level * 25)];
    const rows = rowsFor(at, size.days);
    for (let i = 0; i < size.days; i++) {
      const c = clicks();
      const impressions = c + more();
      setRow(rows, i, 0, FIRST_DAY + i, c, impressions, 4 + ((at + 1) % 9));
    }
    await totals.store(sortAndPack(rows, null));
    read += rows.rows;
  }
  await totals.finish({ read, refused: 0, leftOut: 0 }, []);

  const byQuery = new ImportWriter(db, await newImport(db, site.id, size), site, 'page_query_day', null);
  await byQuery.name({ addresses, queries, labels: [''] });
  const step = Math.max(1, Math.floor(size.days / size.rowsAQuery));
  for (let at = 0; at < size.pages; at++) {
    const page = at + 1;
    const rows = rowsFor(at, size.queriesAPage * size.rowsAQuery);
    for (let i = 0; i < rows.rows; i++) {
      const [q, d] = [i % size.queriesAPage, Math.floor(i / size.queriesAPage)];
      const impressions = 3 + ((d * 37 + q * 11 + page) % 40);
      const day = FIRST_DAY + ((d * step + q) % size.days);
      setRow(
        rows,
        i,
        1 + ((page * 7 + q) % known),
        day,
        (d * 13 + q + page) % 3,
        impressions,
        1 + ((q * 5 + page) % 20),
      );
    }
    byQuery.number(rows);
    await byQuery.store(sortAndPack(rows, null));
  }
  await byQuery.finish(
    { read: size.pages * size.queriesAPage * size.rowsAQuery, refused: 0, leftOut: 0 },
    [],
  );
  for (let i = 0; i < size.changes; i++) {
    const at = 30 + Math.floor(random() * (size.days - 70));
    const id = 1 + Math.floor(random() * size.pages);
    const input = {
      title: `Change ${i + 1}`,
      kind: 'title-rewrite',
      day: isoDay(addDays(FIRST_DAY, at)),
      pages: [`/part-${id % 7}/page-${id}/`],
    };
    await addChange(db, site, newChangeSchema.parse(input));
  }
  return site;
}

function newImport(db: Db, siteId: number, size: Size): Promise<number> {
  const takenOn = asDay(FIRST_DAY + size.days + 30);
  return addImport(db, { siteId, fileName: 'bench', bytesTotal: 0, takenOn, state: 'queued' });
}

function rowsFor(address: number, rows: number): AddressedRows {
  return {
    ...emptyFacts(rows, 3),
    part: new Uint32Array(rows),
    address: new Uint32Array(rows).fill(address),
  };
}

function setRow(
  rows: AddressedRows,
  i: number,
  query: number,
  day: number,
  clicks: number,
  impressions: number,
  position: number,
): void {
  rows.query[i] = query;
  rows.day[i] = day;
  [clicks, impressions, impressions * position].forEach((value, v) => (rows.values[v]![i] = value));
}
