import { AppLink } from '../kit/AppLink';
import { pagePath } from '@/core/address/address';
import { altered, type Parameters } from '@/core/lists/address';
import { COLUMNS, type Column, type ListSubject, differenceColumn } from '@/core/lists/columns';
import { INTENT_NAMES } from '@/core/model/intents';
import { columnValue } from '@/core/lists/written';
import type { Sorting } from '@/core/lists/choose';
import { METRICS } from '@/core/measures/registry';
import type { ListLine } from '@/core/lists/line';
import { routes } from '../shell/routes';

type Props = {
  siteId: number;
  subject: ListSubject;
  lines: readonly ListLine[];
  sort: Sorting;
  parameters: Parameters;
  /** Whether a difference can be told. */
  compared: boolean;
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

/** The lines of a list: what each is, its figures with their differences beside them, and what else is known. */
export function ListTable({ siteId, subject, lines, sort, parameters, compared }: Props) {
  const further = FURTHER[subject].filter((column) =>
    lines.some((line) => (line.further[column] ?? null) !== null),
  );
  const some = (of: (line: ListLine) => unknown) => lines.some((line) => of(line));
  const targets = some(({ target }) => target);
  const intents = some(({ intent }) => intent);
  const head = (column: Column, text: string = COLUMNS[column].name) => (
    <Head key={column} column={column} text={text} sort={sort} parameters={parameters} />
  );
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={NAMES[subject]}>
      <table className="figures dense text-[0.85rem]">
        <thead>
          <tr>
            <th scope="col">{subject === 'pages' ? 'page' : 'query'}</th>
            {subject === 'pairs' && (
              <th scope="col" className="text-left!">
                page
              </th>
            )}
            {METRICS.map((metric) => [
              head(metric),
              ...(compared
                ? [head(differenceColumn(metric), metric === 'position' ? 'places' : 'difference')]
                : []),
            ])}
            {further.map((column) => head(column))}
            {intents && (
              <th scope="col" className="text-left!">
                intent
              </th>
            )}
            {targets && (
              <th scope="col" className="text-left!">
                {subject === 'pages' ? 'target query' : 'target page'}
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <tr key={`${line.page?.id ?? ''}/${line.query?.id ?? ''}`} data-row>
              <th scope="row" className="max-w-80 truncate font-normal!" title={line.title ?? undefined}>
                <Subject siteId={siteId} line={line} />
              </th>
              {subject === 'pairs' && (
                <td className="max-w-60 truncate text-left!">
                  {line.page && (
                    <AppLink href={routes.page(siteId, line.page.id)} className="inline-link">
                      {pagePath(line.page.address)}
                    </AppLink>
                  )}
                </td>
              )}
              {METRICS.map((metric) => {
                const { metrics } = line;
                const change =
                  metric === 'position' ? metrics.position.placesGained : metrics[metric].difference;
                return [
                  <td key={metric}>{columnValue(metric, metrics[metric].after)}</td>,
                  ...(compared
                    ? [
                        <td key={`${metric}-difference`} className="muted">
                          {columnValue(differenceColumn(metric), change)}
                        </td>,
                      ]
                    : []),
                ];
              })}
              {further.map((column) => (
                <td key={column}>{columnValue(column, line.further[column])}</td>
              ))}
              {intents && <td className="text-left!">{line.intent ? INTENT_NAMES[line.intent] : ''}</td>}
              {targets && <td className="max-w-60 truncate text-left!">{line.target ?? ''}</td>}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const NAMES: Readonly<Record<ListSubject, string>> = {
  pages: 'Pages',
  queries: 'Queries',
  pairs: 'Queries, page by page',
};

function Subject({ siteId, line: { page, query } }: { siteId: number; line: ListLine }) {
  const [href, text] = query
    ? [routes.query(siteId, query.id), query.text]
    : [routes.page(siteId, page!.id), pagePath(page!.address)];
  return (
    <AppLink href={href} className="hover:underline">
      {text}
    </AppLink>
  );
}

type HeadProps = { column: Column; text: string; sort: Sorting; parameters: Parameters };

/** A column's name, by which the list is sorted: the largest first, but the best position first. */
function Head({ column, text, sort, parameters }: HeadProps) {
  const here = sort.column === column;
  const falling = here ? !sort.falling : column !== 'position' && column !== 'before.position';
  const about = 'about' in COLUMNS[column] ? (COLUMNS[column] as { about: string }).about : undefined;
  const query = altered(parameters, { sort: `${falling ? '-' : ''}${column}`, cursor: null });
  return (
    <th
      scope="col"
      className="max-w-20 whitespace-normal!"
      aria-sort={here ? (sort.falling ? 'descending' : 'ascending') : undefined}
    >
      <AppLink href={query} className="relative hover:underline" title={about}>
        {text}
        <span aria-hidden className="absolute bottom-0 left-full">
          {here ? (sort.falling ? '▾' : '▴') : ''}
        </span>
      </AppLink>
    </th>
  );
}
