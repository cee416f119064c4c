import type { ReactNode } from 'react';
import { pagePath } from '@/core/address/address';
import { altered, type Parameters } from '@/core/lists/address';
import type { Sorting } from '@/core/lists/choose';
import { COLUMNS, differenceColumn, type Column, type ListSubject } from '@/core/lists/columns';
import type { ListLine } from '@/core/lists/line';
import { columnValue } from '@/core/lists/written';
import { METRICS } from '@/core/measures/registry';
import { INTENT_NAMES } from '@/core/model/intents';
import { AppLink } from '../kit/AppLink';
import { FiguresTable, type Column as TableColumn } from '../kit/table/FiguresTable';
import { routes } from '../shell/routes';

type Props = {
  siteId: number;
  subject: ListSubject;
  lines: readonly ListLine[];
  sort: Sorting;
  parameters: Parameters;
  /** Whether a difference can be told. */
  compared: boolean;
  /** What can be done with the list, to stand above it. */
  children: ReactNode;
};

/** Columns besides the measures, in their order; those of which no line has a value are left out. */
const FURTHER: Readonly<Record<ListSubject, readonly Column[]>> = {
  pages: [
    'queries',
    'expectedCtr',
    'sessions',
    'engagedShare',
    'conversions',
    'revenue',
    'worth',
    'weight',
    'changes',
  ],
  queries: ['pages', 'expectedCtr', 'searches', 'worth'],
  pairs: ['expectedCtr', 'searches', 'worth', 'changes'],
};

const LABELS: Readonly<Record<ListSubject, string>> = {
  pages: 'Pages',
  queries: 'Queries',
  pairs: 'Queries, page by page',
};

/** The lines of a list: what each is, its figures with their differences beside them, and what else is known. */
export function ListTable({ siteId, subject, lines, sort, parameters, compared, children }: Props) {
  const some = (of: (line: ListLine) => unknown) => lines.some((line) => of(line));
  // The largest first, but the best position first; a second click turns the order around.
  const column = (
    id: Column,
    of: (line: ListLine) => number | null | undefined,
    more: Partial<TableColumn<ListLine>> = {},
  ): TableColumn<ListLine> => {
    const here = sort.column === id;
    const falling = here ? !sort.falling : id !== 'position' && id !== 'before.position';
    const { name, about } = COLUMNS[id] as { name: string; about?: string };
    return {
      id,
      name,
      ...(about !== undefined && { about }),
      className: 'max-w-20',
      sortLink: {
        href: altered(parameters, { sort: `${falling ? '-' : ''}${id}`, cursor: null }),
        now: here ? (sort.falling ? 'descending' : 'ascending') : null,
      },
      cell: (line) => columnValue(id, of(line)),
      ...more,
    };
  };
  return (
    <FiguresTable
      label={LABELS[subject]}
      className="dense text-[0.85rem] [&_thead_th]:whitespace-normal"
      choose={`list:${subject}`}
      rows={lines}
      rowKey={({ page, query }) => `${page?.id ?? ''}/${query?.id ?? ''}`}
      columns={[
        {
          id: 'subject',
          name: subject === 'pages' ? 'page' : 'query',
          cellClass: 'max-w-80 truncate font-normal!',
          cell: (line) => <Subject siteId={siteId} line={line} />,
        },
        subject === 'pairs' && {
          id: 'page',
          text: true,
          className: 'max-w-60 truncate',
          cell: ({ page }) =>
            page && (
              <AppLink href={routes.page(siteId, page.id)} className="inline-link">
                {pagePath(page.address)}
              </AppLink>
            ),
        },
        ...METRICS.flatMap((metric) => [
          column(metric, ({ metrics }) => metrics[metric].after),
          compared &&
            column(
              differenceColumn(metric),
              ({ metrics }) =>
                metric === 'position' ? metrics.position.placesGained : metrics[metric].difference,
              { head: metric === 'position' ? 'places' : 'difference', cellClass: 'muted' },
            ),
        ]),
        ...FURTHER[subject].map(
          (id) => some(({ further }) => further[id] != null) && column(id, ({ further }) => further[id]),
        ),
        some(({ intent }) => intent) && {
          id: 'intent',
          text: true,
          cell: ({ intent }) => (intent ? INTENT_NAMES[intent] : ''),
        },
        some(({ target }) => target) && {
          id: 'target',
          name: subject === 'pages' ? 'target query' : 'target page',
          text: true,
          cellClass: 'max-w-60 truncate',
          cell: ({ target }) => target,
        },
      ]}
    >
      {children}
    </FiguresTable>
  );
}

function Subject({ siteId, line: { page, query, title } }: { siteId: number; line: ListLine }) {
  const [href, text] = query
    ? [routes.query(siteId, query.id), query.text]
    : [routes.page(siteId, page!.id), pagePath(page!.address)];
  return (
    <AppLink href={href} className="hover:underline" title={title ?? undefined}>
      {text}
    </AppLink>
  );
}
