'use client';

import { addDays, isoDay, type Day } from '@/core/calendar/day';
import { inSpan } from '@/core/calendar/span';
import { MEASURE_NAMES } from '@/core/measures/registry';
import { metricValue } from '@/core/words/format';
import { FiguresTable } from '../kit/table/FiguresTable';
import type { StripsData } from './strips/data';

/** The figures behind the picture, day by day. */
export function DayFiguresTable({ data, title }: { data: StripsData; title: string }) {
  const { shown, planned, strips } = data;
  const days = Array.from({ length: shown.lastDay - shown.firstDay + 1 }, (_, i) => ({
    day: addDays(shown.firstDay, i),
    values: strips.map(({ values }) => values[i] ?? null),
  }));
  const spanOf = (day: Day) =>
    planned && inSpan(day, planned.before) ? 'before' : planned && inSpan(day, planned.after) ? 'after' : '';
  return (
    <FiguresTable
      label={`Figures by day: ${title}`}
      csv="figures by day.csv"
      rows={days}
      rowKey={({ day }) => day}
      columns={[
        { id: 'day', value: ({ day }) => isoDay(day) },
        { id: 'span', value: ({ day }) => spanOf(day) },
        ...strips.map(({ metric }, i) => ({
          id: metric,
          name: MEASURE_NAMES[metric],
          lowFirst: metric === 'position',
          value: ({ values }: (typeof days)[number]) => values[i] ?? null,
          cell: ({ values }: (typeof days)[number]) => metricValue(metric, values[i] ?? null),
        })),
      ]}
    />
  );
}
