import Form from 'next/form';
import { COMPARE_WITH } from '@/core/lists/wish';
import { NARROW_DEVICES } from '@/core/reading/narrowing';
import { NamedDayRangeField, type DayRange } from '../kit/dates/DayRangeField';

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
export function DaysForm({ action, keep = {}, days, device, against, query, queries }: Props) {
  return (
    <Form action={action} className="mb-1 flex flex-wrap items-center gap-2 text-[0.85rem]" prefetch={false}>
      {Object.entries(keep).map(([name, value]) => (
        <input key={name} type="hidden" name={name} value={value} />
      ))}
      <NamedDayRangeField names={['from', 'to']} defaultValue={days} className="input-sm" />
      {against !== undefined && (
        <select
          name="against"
          aria-label="Compare with"
          className="select select-sm w-auto"
          defaultValue={against}
        >
          {COMPARE_WITH.map(([value, text]) => (
            <option key={value} value={value}>
              {text}
            </option>
          ))}
        </select>
      )}
      {device !== undefined && (
        <select name="device" aria-label="Device" className="select select-sm w-auto" defaultValue={device}>
          <option value="">all devices</option>
          {NARROW_DEVICES.map((name) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      )}
      {queries && queries.length > 0 && (
        <select
          name="query"
          aria-label="Query"
          className="select select-sm max-w-60"
          defaultValue={query ?? ''}
        >
          <option value="">all queries</option>
          {queries.map((text) => (
            <option key={text}>{text}</option>
          ))}
        </select>
      )}
      <button type="submit" className="inline-link">
        Apply
      </button>
    </Form>
  );
}
