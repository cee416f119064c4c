import { createRequire } from 'node:module';
import path from 'node:path';
import { asyncBufferFromFile, parquetMetadataAsync, parquetRead } from 'hyparquet';
import { compressors } from 'hyparquet-compressors';

/*
 * Daily counts that nobody made up and in which nobody changed anything: three million flights within the United States from
 * January to June 2001 (the table `flights-3m` of the package vega-datasets, public domain). An airport stands for a page, its
 * departures for impressions, and those more than a quarter of an hour late for clicks. Weather, weeks and holidays move all of
 * them, some of them together.
 */

const LATE_MINUTES = 15;
const DAY_MS = 86_400_000;
const FIRST_DAY = Date.UTC(2001, 0, 1) / DAY_MS;
/** The last day in the table has a few flights only. */
export const PANEL_DAYS = 181;

/** The days of one airport. */
export type PanelPage = {
  readonly name: string;
  readonly departures: Float64Array;
  readonly late: Float64Array;
};

/** The airports with their daily counts, the busiest first. */
export async function flightPanel(): Promise<PanelPage[]> {
  // The package lets its module be named and not its files, which lie beside it.
  const index = createRequire(import.meta.url).resolve('vega-datasets');
  const file = await asyncBufferFromFile(path.join(index, '..', '..', 'data', 'flights-3m.parquet'));
  const metadata = await parquetMetadataAsync(file);
  const airports = new Map<string, PanelPage>();
  let rowStart = 0;
  for (const group of metadata.row_groups) {
    const rowEnd = rowStart + Number(group.num_rows);
    await parquetRead({
      ...{ file, metadata, compressors, rowStart, rowEnd, columns: ['date', 'delay', 'origin'] },
      onComplete: (rows) => {
        for (const [date, delay, origin] of rows as [Date, bigint | null, string][])
          count(date, delay, origin);
      },
    });
    rowStart = rowEnd;
  }
  return [...airports.values()].sort((a, b) => total(b.departures) - total(a.departures));

  function count(date: Date, delay: bigint | null, origin: string): void {
    const day = Math.floor(date.getTime() / DAY_MS) - FIRST_DAY;
    if (day < 0 || day >= PANEL_DAYS) return;
    let airport = airports.get(origin);
    if (!airport) {
      airport = {
        name: origin,
        departures: new Float64Array(PANEL_DAYS),
        late: new Float64Array(PANEL_DAYS),
      };
      airports.set(origin, airport);
    }
    airport.departures[day]! += 1;
    if (delay !== null && Number(delay) > LATE_MINUTES) airport.late[day]! += 1;
  }
}

function total(counts: Float64Array): number {
  return counts.reduce((sum, n) => sum + n, 0);
}
