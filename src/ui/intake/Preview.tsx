import { addDays, isoDay, type Day } from '@/core/calendar/day';
import { pagePath } from '@/core/address/address';
import type { Inspection, UnderstoodRow } from '@/core/intake/inspection';
import { DEVICES } from '@/core/intake/rowReader';
import { FiguresTable, type Column } from '../kit/table/FiguresTable';
import { count, datedSpan, metricValue } from '@/core/words/format';

const DEVICE_NAMES = Object.fromEntries(Object.entries(DEVICES).map(([name, code]) => [code, name]));

type Sample = Inspection['sample'][number];
type ReadColumn = {
  readonly id: string;
  readonly text?: boolean;
  readonly of: (row: UnderstoodRow) => string;
};

const amount = (value: number | null | undefined) =>
  value == null ? '–' : value.toLocaleString('en-GB', { maximumFractionDigits: 2 });

function columnsOf({ grain, mapping }: Inspection): ReadColumn[] {
  const texts: (ReadColumn | false)[] = [
    mapping.date != null && {
      id: 'day',
      text: true,
      of: (row) => (row.day === null ? '' : isoDay(row.day as Day)),
    },
    mapping.week != null && {
      id: 'week',
      text: true,
      of: ({ day }) =>
        day === null ? '' : datedSpan({ firstDay: addDays(day as Day, -6), lastDay: day as Day }),
    },
    mapping.page != null && {
      id: 'page',
      text: true,
      of: (row) => (row.address === null ? '' : pagePath(row.address)),
    },
    mapping.query != null && { id: 'query', text: true, of: (row) => row.query ?? '' },
    mapping.device != null && { id: 'device', of: (row) => DEVICE_NAMES[row.device] ?? '' },
    mapping.country != null && { id: 'country', of: (row) => row.country },
  ];
  return [...texts.filter((column) => column !== false), ...valuesOf(grain)];
}

function valuesOf(grain: Inspection['grain']): ReadColumn[] {
  const value = (name: string, key: string): ReadColumn => ({
    id: name,
    of: (row) => amount(row.values[key]),
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
    const of = (row: UnderstoodRow) =>
      row.attributes.map(({ name, value }) => `${name}: ${value}`).join(', ');
    return [{ id: 'states', text: true, of }];
  }
  return [
    { id: 'clicks', of: ({ values }) => count(values.clicks ?? 0) },
    { id: 'impressions', of: ({ values }) => count(values.impressions ?? 0) },
    {
      id: 'CTR',
      of: ({ values }) => metricValue('ctr', ratio(values.clicks, values.impressions)),
    },
    {
      id: 'position',
      of: ({ values }) => metricValue('position', ratio(values.positionSum, values.impressions)),
    },
  ];
}

function ratio(part: number | null | undefined, whole: number | null | undefined): number | null {
  return part == null || !whole ? null : part / whole;
}

/** The first rows of a file as they will be understood, or why they will be refused. */
export function Preview({ inspection }: { inspection: Inspection }) {
  if (inspection.grain === null) return <RawRows {...inspection} />;
  return (
    <FiguresTable
      label="The first rows, as they will be understood"
      sortable={false}
      rows={inspection.sample}
      rowKey={({ line }) => line}
      wide={({ understood, cells }) =>
        understood === null ? (
          <span className="muted">
            left out: it is of a kind that does not count <RawText cells={cells} />
          </span>
        ) : typeof understood === 'string' ? (
          <Refused reason={understood} cells={cells} />
        ) : null
      }
      columns={[
        LINE,
        ...columnsOf(inspection).map(({ id, text = false, of }): Column<Sample> => ({
          id,
          text,
          cellClass: text ? 'max-w-96 truncate' : '',
          cell: ({ understood }) => understood !== null && typeof understood !== 'string' && of(understood),
        })),
      ]}
    />
  );
}

const LINE = {
  id: 'line',
  cellClass: 'muted font-normal!',
  cell: ({ line }: { readonly line: number }) => line,
};

/** Why a row of a file is refused, and the row as it stands there. */
export function Refused({ reason, cells }: { reason: string; cells: readonly string[] }) {
  return (
    <>
      <span className="text-error">refused: {reason}</span> <RawText cells={cells} />
    </>
  );
}

function RawText({ cells }: { cells: readonly string[] }) {
  return <span className="muted break-all">{cells.join(' | ').slice(0, 200)}</span>;
}

/** The first rows as they stand in the file, as long as it is not known what they are about. */
function RawRows({ head, sample }: Pick<Inspection, 'head' | 'sample'>) {
  return (
    <FiguresTable
      label="The first rows, as they stand in the file"
      sortable={false}
      rows={sample}
      rowKey={({ line }) => line}
      columns={[
        LINE,
        ...head.map((name, i): Column<Sample> => ({
          id: `${i}`,
          name,
          text: true,
          cellClass: 'max-w-96 truncate',
          cell: ({ cells }) => cells[i],
        })),
      ]}
    />
  );
}
