'use client';

import { shownAddress } from '@/core/address/address';
import { count } from '@/core/words/format';
import type { Act } from '../kit/attempt';
import { useAct } from '../kit/useAct';
import { FiguresTable } from '../kit/table/FiguresTable';

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

/** Rows shown until all are asked for. */
const SHOWN = 100;

/** Addresses of one source that the other lacks, each with the nearest page of the other and one click to join it. */
export function JoinsTable({ siteId, home, title, rows, join }: Props) {
  const { busy, act: ask } = useAct();
  if (rows.length === 0) return null;
  const byHand = rows[0]!.rows === undefined;
  const other = (line: Line) => (byHand ? line.page : (line.nearest ?? null));
  const act = (line: Line) => ask(() => join(siteId, line.addressId, byHand ? null : (line.nearest ?? null)));
  return (
    <div className="mt-4">
      <h3 className="font-semibold">
        {title} <span className="muted font-normal">({count(rows.length)})</span>
      </h3>
      <FiguresTable
        label={title}
        first={SHOWN}
        csv={`${title.toLowerCase()}.csv`}
        rows={rows}
        rowKey={({ addressId }) => addressId}
        columns={[
          {
            id: 'address',
            text: true,
            cellClass: 'max-w-96 truncate font-normal!',
            value: ({ address }) => address,
            cell: ({ address }) => <span title={address}>{shownAddress(address, home)}</span>,
          },
          !byHand && {
            id: 'rows',
            value: (line) => line.rows ?? 0,
            cell: (line) => count(line.rows ?? 0),
          },
          {
            id: byHand ? 'joined to' : 'nearest in the other source',
            text: true,
            cellClass: 'max-w-96 truncate',
            value: other,
            cell: (line) => {
              const address = other(line);
              return address === null ? (
                <span className="muted">none is near</span>
              ) : (
                shownAddress(address, home)
              );
            },
          },
          {
            id: 'what can be done',
            hideHead: true,
            text: true,
            cell: (line) =>
              (byHand || line.nearest) && (
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
              ),
          },
        ]}
      />
    </div>
  );
}
