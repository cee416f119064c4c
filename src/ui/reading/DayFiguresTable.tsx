'use client';

import { addDays, isoDay } from '@/core/calendar/day';
import { inSpan } from '@/core/calendar/span';
import { MEASURE_NAMES } from '@/core/measures/registry';
import { metricValue } from '@/core/words/format';
import { saveCsv } from '../kit/saveCsv';
import type { StripsData } from './strips/data';

/** The figures behind the picture, day by day. */
export function DayFiguresTable({ data, title }: { data: StripsData; title: string }) {
  const days = Array.from({ length: data.shown.lastDay - data.shown.firstDay + 1 }, (_, i) =>
    addDays(data.shown.firstDay, i),
  );
  const spanOf = (day: (typeof days)[number]) =>
    data.planned && inSpan(day, data.planned.before)
      ? 'before'
      : data.planned && inSpan(day, data.planned.after)
        ? 'after'
        : '';
  const save = () =>
    saveCsv(
      'figures by day.csv',
      days.map((day, i) => ({
        day: isoDay(day),
        span: spanOf(day),
        ...Object.fromEntries(data.strips.map(({ metric, values }) => [metric, values[i] ?? null])),
      })),
    );
  return (
    <>
      <button type="button" className="inline-link my-2" onClick={save}>
        Save as CSV
      </button>
      <div
        className="max-h-96 overflow-auto"
        tabIndex={0}
        role="region"
        aria-label={`Figures by day: ${title}`}
      >
        <table className="figures">
          <thead>
            <tr>
              <th scope="col">day</th>
              <th scope="col">span</th>
              {data.strips.map(({ metric }) => (
                <th key={metric} scope="col">
                  {MEASURE_NAMES[metric]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {days.map((day, i) => (
              <tr key={day}>
                <th scope="row">{isoDay(day)}</th>
                <td>{spanOf(day)}</td>
                {data.strips.map(({ metric, values }) => (
                  <td key={metric}>{metricValue(metric, values[i] ?? null)}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}
