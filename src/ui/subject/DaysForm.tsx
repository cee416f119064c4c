import { COMPARE_WITH } from '@/core/lists/wish';
import { NARROW_DEVICES } from '@/core/reading/narrowing';
import type { DayRange } from '../kit/dates/DayRangeField';
import { ViewForm, type ViewField } from '../kit/view/ViewForm';

type Props = {
  /** The address of the screen, and what else of its query is to stay. */
  action: string;
  keep?: Readonly<Record<string, string>>;
  days: DayRange;
  /** Absent where figures are not narrowed to a device. */
  device?: string;
  /** What the days are compared with; absent where they are not compared. */
  against?: string;
  query?: string | undefined;
  /** Searches that the figures may be narrowed to; absent where there is nothing to narrow. */
  queries?: readonly string[];
};

/** Which days are shown, of which device and search. */
export function DaysForm({ action, keep = {}, days, device, against, query, queries = [] }: Props) {
  const fields: ViewField[] = [{ type: 'days', names: ['from', 'to'], label: 'Days', quiet: true }];
  const choice = (name: string, label: string, options: readonly (readonly [string, string])[], width = '') =>
    fields.push({ type: 'choice', name, label, options, quiet: true, className: `w-auto ${width}` });
  if (against !== undefined) choice('against', 'Compare with', COMPARE_WITH);
  if (device !== undefined)
    choice('device', 'Device', [['', 'all devices'], ...NARROW_DEVICES.map((name) => [name, name] as const)]);
  if (queries.length > 0)
    choice(
      'query',
      'Query',
      [['', 'all queries'], ...queries.map((text) => [text, text] as const)],
      'max-w-60',
    );
  return (
    <ViewForm
      action={action}
      keep={keep}
      fields={fields}
      shown={{ ...days, against: against ?? '', device: device ?? '', query: query ?? '' }}
      submit="Apply"
      button="inline-link"
      className="mb-1"
      body="flex flex-wrap items-center gap-2 text-[0.85rem]"
    />
  );
}
