import type { Metadata } from 'next';
import { AppLink } from '@/ui/kit/AppLink';
import { mediumDay, plural, spanText } from '@/core/words/format';
import { keptSheets } from '@/store/traits/sheets';
import { DropSheet } from '@/ui/lists/DropSheet';
import { RowKeys } from '@/ui/kit/RowKeys';
import { Screen } from '@/ui/kit/Screen';
import { routes } from '@/ui/shell/routes';
import { siteFromPath, type SitePageProps } from '../site';
import { dropSheet } from './actions';
import { FormLink } from '@/ui/shell/May';
import { FiguresTable } from '@/ui/kit/table/FiguresTable';

export const metadata: Metadata = { title: 'Sheets' };

/** The sheets that were made of chosen pages: as they were, or made anew with what changed. */
export default async function SheetsPage({ params }: SitePageProps) {
  const { db, site } = await siteFromPath((await params).siteId);
  const sheets = keptSheets(db, site.id);
  return (
    <Screen
      title="Sheets"
      lead="The queries of chosen pages in one dated table, with a column for what was worked in. Made anew, a sheet has what it said then beside what is so now."
    >
      {sheets.length === 0 ? (
        <p>
          None yet. Narrow{' '}
          <AppLink href={routes.pages(site.id)} className="inline-link">
            the list of pages
          </AppLink>{' '}
          to those you take on, and make a sheet of them there.
        </p>
      ) : (
        <RowKeys>
          <FiguresTable
            label="Sheets"
            className="text-[0.9rem]"
            rows={sheets}
            rowKey={({ id }) => id}
            columns={[
              { id: 'sheet', value: ({ name }) => name },
              { id: 'made on', text: true, value: ({ day }) => day, cell: ({ day }) => mediumDay(day) },
              { id: 'days', text: true, value: ({ firstDay }) => firstDay, cell: spanText },
              {
                id: 'pages',
                value: ({ pageIds }) => pageIds.length,
                cell: ({ pageIds }) => plural(pageIds.length, 'page'),
              },
              ...([false, true] as const).map((anew) => ({
                id: anew ? 'made anew' : 'as it was',
                text: true,
                cell: ({ id, name }: (typeof sheets)[number]) =>
                  (['xlsx', 'csv'] as const).map((as) => (
                    <a key={as} href={routes.saveSheet(site.id, id, as, anew)} className="inline-link mr-3">
                      {as.toUpperCase()}
                      <span className="sr-only">
                        {' '}
                        of {name}
                        {anew ? ', made anew' : ''}
                      </span>
                    </a>
                  )),
              })),
              {
                id: 'round',
                hideHead: true,
                text: true,
                cell: ({ id, name }) => (
                  <FormLink
                    right="edit"
                    href={routes.roundOf(site.id, { sheet: id })}
                    className="inline-link"
                  >
                    Take on<span className="sr-only"> {name}</span> as a round
                  </FormLink>
                ),
              },
              {
                id: 'what can be done',
                hideHead: true,
                cell: ({ id, name }) => <DropSheet siteId={site.id} id={id} name={name} drop={dropSheet} />,
              },
            ]}
          />
        </RowKeys>
      )}
    </Screen>
  );
}
