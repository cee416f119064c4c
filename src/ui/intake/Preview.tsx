import { addDays, isoDay, type Day } from '@/core/calendar/day';
import { pagePath } from '@/core/address/address';
import type { Inspection, UnderstoodRow } from '@/core/intake/inspection';
import { DEVICES } from '@/core/intake/rowReader';
import { count, datedSpan, metricValue } from '@/core/words/format';

const DEVICE_NAMES = Object.fromEntries(Object.entries(DEVICES).map(([name, code]) => [code, name]));

type Column = {
  readonly name: string;
  readonly left: boolean;
  readonly cell: (row: UnderstoodRow) => string;
};

const amount = (value: number | null | undefined) =>
  value == null ? '–' : value.toLocaleString('en-GB', { maximumFractionDigits: 2 });

function columnsOf({ grain, mapping }: Inspection): Column[] {
  const texts: (Column | false)[] = [
    mapping.date != null && {
      name: 'day',
      left: true,
      cell: (row) => (row.day === null ? '' : isoDay(row.day as Day)),
    },
    mapping.week != null && {
      name: 'week',
      left: true,
      cell: ({ day }) =>
        day === null ? '' : datedSpan({ firstDay: addDays(day as Day, -6), lastDay: day as Day }),
    },
    mapping.page != null && {
      name: 'page',
      left: true,
      cell: (row) => (row.address === null ? '' : pagePath(row.address)),
    },
    mapping.query != null && { name: 'query', left: true, cell: (row) => row.query ?? '' },
    mapping.device != null && { name: 'device', left: false, cell: (row) => DEVICE_NAMES[row.device] ?? '' },
    mapping.country != null && { name: 'country', left: false, cell: (row) => row.country },
  ];
  return [...texts.filter((column) => column !== false), ...valuesOf(grain)];
}

function valuesOf(grain: Inspection['grain']): Column[] {
  const value = (name: string, key: string): Column => ({
    name,
    left: false,
    cell: (row) => amount(row.values[key]),
  });
  if (grain === 'rank_check') return [value('position', 'position')];
  if (grain === 'analytics_day') {
    return [
      value('sessions', 'sessions'),
      value('engaged', 'engagedSessions'),
      value('bounces', 'bounces'),
      value('conversions', 'conversions'),
      value('revenue', 'revenue'),
    ];
  }
  if (grain === 'page_attribute' || grain === 'query_attribute') {
    const cell = (row: UnderstoodRow) =>
      row.attributes.map(({ name, value }) => `${name}: ${value}`).join(', ');
    return [{ name: 'states', left: true, cell }];
  }
  return [
    { name: 'clicks', left: false, cell: ({ values }) => count(values.clicks ?? 0) },
    { name: 'impressions', left: false, cell: ({ values }) => count(values.impressions ?? 0) },
    {
      name: 'CTR',
      left: false,
      cell: ({ values }) => metricValue('ctr', ratio(values.clicks, values.impressions)),
    },
    {
      name: 'position',
      left: false,
      cell: ({ values }) => metricValue('position', ratio(values.positionSum, values.impressions)),
    },
  ];
}

function ratio(part: number | null | undefined, whole: number | null | undefined): number | null {
  return part == null || !whole ? null : part / whole;
}

/** The first rows of a file as they will be understood, or why they will be refused. */
export function Preview({ inspection }: { inspection: Inspection }) {
  if (inspection.grain === null) return <RawRows {...inspection} />;
  const columns = columnsOf(inspection);
  return (
    <table className="figures text-[0.87rem]">
      <thead>
        <tr>
          <th scope="col">line</th>
          {columns.map(({ name, left }) => (
            <th key={name} scope="col" className={left ? 'text-left!' : undefined}>
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {inspection.sample.map(({ line, cells, understood }) => (
          <tr key={line}>
            <td className="muted">{line}</td>
            {understood === null ? (
              <td colSpan={columns.length} className="muted text-left! whitespace-normal!">
                left out: it is of a kind that does not count{' '}
                <span className="break-all">{cells.join(' | ').slice(0, 200)}</span>
              </td>
            ) : typeof understood === 'string' ? (
              <td colSpan={columns.length} className="text-left! whitespace-normal!">
                <span className="text-error">refused: {understood}</span>{' '}
                <span className="muted break-all">{cells.join(' | ').slice(0, 200)}</span>
              </td>
            ) : (
              columns.map(({ name, left, cell }) => (
                <td key={name} className={left ? 'max-w-96 truncate text-left!' : undefined}>
                  {cell(understood)}
                </td>
              ))
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The first rows as they stand in the file, as long as it is not known what they are about. */
function RawRows({ head, sample }: Pick<Inspection, 'head' | 'sample'>) {
  return (
    <table className="figures text-[0.87rem]">
      <thead>
        <tr>
          <th scope="col">line</th>
          {head.map((name, column) => (
            <th key={column} scope="col" className="text-left!">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {sample.map(({ line, cells }) => (
          <tr key={line}>
            <td className="muted">{line}</td>
            {head.map((_, column) => (
              <td key={column} className="max-w-96 truncate text-left!">
                {cells[column]}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
