import Link from 'next/link';
import { GRAINS } from '@/core/facts/grains';
import { count, datedSpan } from '@/core/words/format';
import { RowKeys } from '../parts/RowKeys';
import { routes } from '../shell/routes';
import type { ImportLine } from './ImportSummary';

/** What stands in place of the days of a file of which nothing is stored. */
const STATE_NAMES: Record<ImportLine['state'], string> = {
  draft: 'not confirmed yet',
  queued: 'waits for its turn',
  running: 'coming in',
  failed: 'nothing stored',
  done: 'done',
  undone: 'undone',
};

/** The files brought in so far, newest first. */
export function ImportList({ siteId, lines }: { siteId: number; lines: readonly ImportLine[] }) {
  return (
    <RowKeys>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Files brought in">
        <table className="figures text-[0.9rem]">
          <thead>
            <tr>
              <th scope="col">file</th>
              <th scope="col" className="text-left!">
                brought in (UTC)
              </th>
              <th scope="col" className="text-left!">
                rows
              </th>
              <th scope="col" className="text-left!">
                days
              </th>
              <th scope="col">stored</th>
              <th scope="col">replaced</th>
              <th scope="col">refused</th>
            </tr>
          </thead>
          <tbody>
            {lines.map((line) => (
              <tr key={line.id} data-row>
                <th scope="row">
                  <Link href={routes.import(siteId, line.id)} prefetch={false} className="inline-link">
                    {line.fileName}
                  </Link>
                </th>
                <td className="text-left!">{line.createdAt.slice(0, 16).replace('T', ' ')}</td>
                <td className="text-left!">{line.grain ? GRAINS[line.grain].name : ''}</td>
                <td className="text-left!">
                  {line.firstDay !== null && line.lastDay !== null
                    ? datedSpan({ firstDay: line.firstDay, lastDay: line.lastDay })
                    : STATE_NAMES[line.state]}
                </td>
                <td>{count(line.rowsStored)}</td>
                <td>{count(line.rowsReplaced)}</td>
                <td className={line.rowsRefused > 0 ? 'font-semibold' : undefined}>
                  {count(line.rowsRefused)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </RowKeys>
  );
}
