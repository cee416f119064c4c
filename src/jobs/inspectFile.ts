import { pageAddress } from '../core/address/address';
import type { Day } from '../core/calendar/day';
import { mappingProblems, recogniseColumns } from '../core/intake/columns';
import { DateOrderEvidence } from '../core/intake/dates';
import type { Inspection, Stated } from '../core/intake/inspection';
import { readRow, type RowContext } from '../core/intake/row';
import { forEachRecord, readHead } from './csvFile';

export const SAMPLE_ROWS = 8;

/**
 * Looks through a file once: columns, the order of its dates (from the whole column), and the first rows as they
 * would be read. Throws FileRefused where it is no CSV.
 */
export async function inspectFile(
  file: string,
  site: { readonly address: string },
  newestDay: Day,
  stated: Stated = {},
): Promise<Inspection> {
  const csv = await readHead(file);
  const mapping = stated.mapping ?? recogniseColumns(csv.head);
  const evidence = new DateOrderEvidence();
  const first: { line: number; cells: string[] }[] = [];
  let rows = 0;
  await forEachRecord(file, csv, (cells, line) => {
    rows++;
    if (first.length < SAMPLE_ROWS) first.push({ line, cells });
    if (mapping.date != null) evidence.add(cells[mapping.date] ?? '');
  });
  const found = evidence.finding();
  const dateOrder = stated.dateOrder ?? found;
  const context: RowContext = {
    mapping,
    dateOrder: dateOrder === 'ambiguous' || dateOrder === 'none' ? 'day-first' : dateOrder,
    newestDay,
    address: addressReader(site.address),
  };
  return {
    head: csv.head,
    mapping,
    mappingProblems: mappingProblems(mapping, csv.head.length),
    dateOrder,
    rows,
    sample: first.map(({ line, cells }) => ({ line, cells, understood: readRow(cells, context) })),
  };
}

/** Normalises addresses of one site, remembering those met before, since files repeat them from day to day. */
export function addressReader(siteAddress: string): RowContext['address'] {
  const known = new Map<string, ReturnType<RowContext['address']>>();
  return (text) => {
    const found = known.get(text);
    if (found) return found;
    const result = readAddress(text, siteAddress);
    if (known.size < 200_000) known.set(text, result);
    return result;
  };
}

function readAddress(text: string, siteAddress: string): ReturnType<RowContext['address']> {
  try {
    return { key: pageAddress(text, siteAddress) };
  } catch (error) {
    return { problem: error instanceof Error ? error.message : 'The address cannot be read.' };
  }
}
