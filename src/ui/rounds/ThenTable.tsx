import { AppLink } from '../kit/AppLink';
import { pagePath } from '@/core/address/address';
import type { Round, RoundPage } from '@/core/model/round';
import { count, metricValue, spanText } from '@/core/words/format';
import { routes } from '../shell/routes';
import { FiguresTable } from '../kit/table/FiguresTable';

/** What was known of the pages of a round on the day on which it began. */
export function ThenTable({ siteId, round }: { siteId: number; round: Round }) {
  const span = round.pages.map(({ frozen }) => frozen).find(({ firstDay }) => firstDay !== null);
  return (
    <>
      <p className="muted mb-2 text-[0.9rem]">
        {span?.firstDay != null && span.lastDay !== null
          ? `Figures of ${spanText({ firstDay: span.firstDay, lastDay: span.lastDay })}, kept when the round began.`
          : 'There were no figures when the round began.'}
      </p>
      <FiguresTable
        label="As it was then"
        className="dense text-[0.87rem]"
        csv="pages of the round then.csv"
        rows={round.pages}
        rowKey={({ page }) => page.id}
        columns={[
          {
            id: 'page',
            cellClass: 'max-w-52 truncate',
            value: ({ page }) => pagePath(page.address),
            cell: ({ page }) => (
              <AppLink href={routes.page(siteId, page.id)} className="hover:underline">
                {pagePath(page.address)}
              </AppLink>
            ),
          },
          { id: 'half', text: true, value: ({ half }) => half },
          ...(['clicks', 'impressions', 'position', 'appeal'] as const).map((measure) => ({
            id: measure,
            lowFirst: measure === 'position',
            value: ({ frozen }: RoundPage) => frozen[measure],
            cell: ({ frozen }: RoundPage) => metricValue(measure, frozen[measure]),
          })),
          {
            id: 'title then',
            text: true,
            cellClass: 'max-w-64 truncate',
            value: ({ frozen }) => frozen.title,
            cell: ({ frozen: { title } }) =>
              title === null ? (
                <span className="muted">not fetched</span>
              ) : (
                <span title={title}>{title}</span>
              ),
          },
          {
            id: 'most seen searches',
            text: true,
            cellClass: 'max-w-80 truncate',
            sorts: false,
            value: ({ frozen }) =>
              frozen.queries
                .slice(0, 4)
                .map(({ text, impressions }) => `${text} (${count(impressions)})`)
                .join(', '),
          },
        ]}
      />
    </>
  );
}
