'use client';

import { shownAddress } from '@/core/address/address';
import { count } from '@/core/words/format';
import type { Act } from '../kit/attempt';
import { saveCsv } from '../kit/saveCsv';
import { useAct } from '../kit/useAct';

/** An address that does not match, or (without `rows`) one that was joined by hand to a page. */
type Line = {
  readonly addressId: number;
  readonly address: string;
  readonly page: string;
  readonly rows?: number;
  readonly nearest?: string | null;
};

type Props = {
  siteId: number;
  home: string;
  title: string;
  rows: readonly Line[];
  join: Act<[siteId: number, addressId: number, page: string | null]>;
};

/** Rows shown at once; all of them are in the CSV. */
const SHOWN = 100;

/** Addresses of one source that the other lacks, each with the nearest page of the other and one click to join it. */
export function JoinsTable({ siteId, home, title, rows, join }: Props) {
  const { busy, act: ask } = useAct();
  if (rows.length === 0) return null;
  const byHand = rows[0]!.rows === undefined;
  const other = (line: Line) => (byHand ? line.page : (line.nearest ?? null));
  const act = (line: Line) => ask(() => join(siteId, line.addressId, byHand ? null : (line.nearest ?? null)));
  const save = () =>
    saveCsv(
      `${title.toLowerCase()}.csv`,
      rows.map((row) => ({
        address: row.address,
        [byHand ? 'joined to' : 'nearest']: other(row) ?? '',
        rows: row.rows ?? null,
      })),
    );
  return (
    <div className="mt-4">
      <div className="flex items-baseline gap-4">
        <h3 className="font-semibold">
          {title} <span className="muted font-normal">({count(rows.length)})</span>
        </h3>
        <button type="button" className="inline-link text-[0.85rem]" onClick={save}>
          Save as CSV
        </button>
      </div>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={title}>
        <table className="figures text-[0.87rem]">
          <thead>
            <tr>
              <th scope="col" className="text-left!">
                address
              </th>
              {!byHand && <th scope="col">rows</th>}
              <th scope="col" className="text-left!">
                {byHand ? 'joined to' : 'nearest in the other source'}
              </th>
              <th scope="col">
                <span className="sr-only">what can be done</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.slice(0, SHOWN).map((line) => (
              <tr key={line.addressId} data-row>
                <td className="max-w-96 truncate text-left!" title={line.address}>
                  {shownAddress(line.address, home)}
                </td>
                {!byHand && <td>{count(line.rows ?? 0)}</td>}
                <td className="max-w-96 truncate text-left!">
                  {other(line) === null ? (
                    <span className="muted">none is near</span>
                  ) : (
                    shownAddress(other(line)!, home)
                  )}
                </td>
                <td className="text-left!">
                  {(byHand || line.nearest) && (
                    <button
                      type="button"
                      className="inline-link"
                      disabled={busy}
                      onClick={() => act(line)}
                      aria-label={
                        byHand ? `Part ${line.address} again` : `Join ${line.address} to ${line.nearest}`
                      }
                    >
                      {byHand ? 'Part again' : 'Join'}
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {rows.length > SHOWN && (
        <p className="muted mt-1">and {count(rows.length - SHOWN)} more, all in the CSV to save.</p>
      )}
    </div>
  );
}
