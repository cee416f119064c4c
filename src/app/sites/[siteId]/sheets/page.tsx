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
          <table className="figures text-[0.9rem]">
            <thead>
              <tr>
                <th scope="col">sheet</th>
                <th scope="col" className="text-left!">
                  made on
                </th>
                <th scope="col" className="text-left!">
                  days
                </th>
                <th scope="col">pages</th>
                <th scope="col" className="text-left!">
                  as it was
                </th>
                <th scope="col" className="text-left!">
                  made anew
                </th>
                <th scope="col" />
                <th scope="col" />
              </tr>
            </thead>
            <tbody>
              {sheets.map((sheet) => (
                <tr key={sheet.id} data-row>
                  <th scope="row">{sheet.name}</th>
                  <td className="text-left!">{mediumDay(sheet.day)}</td>
                  <td className="text-left!">{spanText(sheet)}</td>
                  <td>{plural(sheet.pageIds.length, 'page')}</td>
                  {([false, true] as const).map((anew) => (
                    <td key={String(anew)} className="text-left!">
                      {(['xlsx', 'csv'] as const).map((as) => (
                        <a
                          key={as}
                          href={routes.saveSheet(site.id, sheet.id, as, anew)}
                          className="inline-link mr-3"
                        >
                          {as.toUpperCase()}
                          <span className="sr-only">
                            {' '}
                            of {sheet.name}
                            {anew ? ', made anew' : ''}
                          </span>
                        </a>
                      ))}
                    </td>
                  ))}
                  <td className="text-left!">
                    <FormLink
                      right="edit"
                      href={routes.roundOf(site.id, { sheet: sheet.id })}
                      className="inline-link"
                    >
                      Take on<span className="sr-only"> {sheet.name}</span> as a round
                    </FormLink>
                  </td>
                  <td>
                    <DropSheet siteId={site.id} id={sheet.id} name={sheet.name} drop={dropSheet} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </RowKeys>
      )}
    </Screen>
  );
}
