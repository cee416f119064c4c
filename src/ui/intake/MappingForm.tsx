'use client';

import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { isoDay } from '@/core/calendar/day';
import { pagePath } from '@/core/address/address';
import { FIELD_NAMES, FIELDS, REQUIRED_FIELDS, type Field } from '@/core/intake/columns';
import type { DateOrder } from '@/core/intake/dates';
import type { Inspection, Stated } from '@/core/intake/inspection';
import { DEVICES, type FigureRow } from '@/core/intake/row';
import { count, metricValue, plural } from '@/core/words/format';
import type { FormResult } from '../parts/formResult';
import { routes } from '../shell/routes';

type Props = {
  siteId: number;
  importId: number;
  initial: Inspection;
  inspect: (siteId: number, importId: number, stated: Stated) => Promise<FormResult<Inspection>>;
  confirm: (siteId: number, importId: number, stated: Stated) => Promise<void>;
  discard: (siteId: number, importId: number) => Promise<void>;
};

/** Shows how a file will be understood, lets columns be mapped by hand, and asks what the file leaves open. */
export function MappingForm({ siteId, importId, initial, inspect, confirm, discard }: Props) {
  const router = useRouter();
  const [seen, setSeen] = useState(initial);
  const [statedOrder, setStatedOrder] = useState<DateOrder | undefined>();
  const [error, setError] = useState<string | null>(null);
  const [busy, start] = useTransition();
  // Once the question has been asked it stays, so that the answer can be changed.
  const [asked, setAsked] = useState(initial.dateOrder === 'ambiguous');

  const lookAgain = (stated: Stated) =>
    start(async () => {
      const result = await inspect(siteId, importId, stated);
      if (!result.ok) {
        setError(result.errors[0]?.message ?? 'The file could not be read.');
        return;
      }
      setError(null);
      setSeen(result.value);
      if (result.value.dateOrder === 'ambiguous') setAsked(true);
    });
  const remap = (field: Field, column: number | null) =>
    lookAgain({ mapping: { ...seen.mapping, [field]: column }, dateOrder: statedOrder });
  const stateOrder = (order: DateOrder) => {
    setStatedOrder(order);
    lookAgain({ mapping: seen.mapping, dateOrder: order });
  };
  const open = seen.mappingProblems.length > 0 || seen.dateOrder === 'ambiguous';
  const bringIn = () =>
    start(async () => {
      await confirm(siteId, importId, {
        mapping: seen.mapping,
        ...(statedOrder ? { dateOrder: statedOrder } : {}),
      });
      router.refresh();
    });
  const drop = () =>
    start(async () => {
      await discard(siteId, importId);
      router.push(routes.intake(siteId));
    });

  return (
    <div className="space-y-6">
      <section aria-labelledby="columns">
        <h2 id="columns" className="mb-2 text-xl">
          What each column holds
        </h2>
        <div className="grid grid-cols-2 gap-x-5 gap-y-2.5 sm:grid-cols-3 lg:grid-cols-5">
          {FIELDS.map((field) => (
            <label key={field} className="block text-[0.85rem]">
              <span className="font-semibold">{FIELD_NAMES[field]}</span>
              {!REQUIRED_FIELDS.includes(field) && <span className="muted"> may be absent</span>}
              <select
                className="select select-sm mt-0.5 w-full"
                value={seen.mapping[field] ?? ''}
                disabled={busy}
                onChange={(e) => remap(field, e.target.value === '' ? null : Number(e.target.value))}
              >
                <option value="">no column</option>
                {seen.head.map((name, column) => (
                  <option key={column} value={column}>
                    {name || `column ${column + 1}`}
                  </option>
                ))}
              </select>
            </label>
          ))}
        </div>
        {asked && (
          <fieldset className="mt-4 border-l-3 border-(--band) pl-3">
            <legend className="sr-only">Order of day and month</legend>
            <p className="font-semibold">
              The dates could be day first or month first, and nothing in the column settles it. Which is it?
            </p>
            {(['day-first', 'month-first'] as const).map((order) => (
              <label key={order} className="mr-6 inline-flex items-center gap-2">
                <input
                  type="radio"
                  name="order"
                  className="radio radio-sm"
                  checked={statedOrder === order}
                  onChange={() => stateOrder(order)}
                />
                {order === 'day-first' ? 'day first: 3/9 is 3 September' : 'month first: 3/9 is 9 March'}
              </label>
            ))}
          </fieldset>
        )}
        {[...seen.mappingProblems, ...(error ? [error] : [])].map((problem) => (
          <p key={problem} role="alert" className="mt-2 font-medium text-error">
            {problem}
          </p>
        ))}
      </section>

      <section aria-labelledby="preview">
        <h2 id="preview" className="mb-1 text-xl">
          The first rows, as they will be understood
        </h2>
        <div className="overflow-x-auto" tabIndex={0} role="region" aria-labelledby="preview">
          <Preview inspection={seen} />
        </div>
      </section>

      <div className="flex items-center gap-4">
        <button type="button" className="btn btn-primary" disabled={busy || open} onClick={bringIn}>
          Bring in {plural(seen.rows, 'row')}
        </button>
        <button type="button" className="btn btn-ghost" disabled={busy} onClick={drop}>
          Not this file
        </button>
        <span className="muted text-[0.85rem]" aria-live="polite">
          {busy ? 'Looking …' : waitsFor(seen)}
        </span>
      </div>
    </div>
  );
}

/** What stands between a file and its being brought in, or else what will happen to rows that are there already. */
function waitsFor({ mappingProblems, dateOrder }: Inspection): string {
  if (mappingProblems.length > 0) return 'Name the columns above first.';
  if (dateOrder === 'ambiguous')
    return 'Answer the question above first; until then the rows are shown as day first.';
  return 'Rows that are there already are replaced, not doubled.';
}

const DEVICE_NAMES = Object.fromEntries(Object.entries(DEVICES).map(([name, code]) => [code, name]));

function Preview({ inspection }: { inspection: Inspection }) {
  const { query, device, country } = inspection.mapping;
  return (
    <table className="figures text-[0.87rem]">
      <thead>
        <tr>
          <th scope="col">line</th>
          <th scope="col" className="text-left!">
            day
          </th>
          <th scope="col" className="text-left!">
            page
          </th>
          {query != null && (
            <th scope="col" className="text-left!">
              query
            </th>
          )}
          {device != null && <th scope="col">device</th>}
          {country != null && <th scope="col">country</th>}
          <th scope="col">clicks</th>
          <th scope="col">impressions</th>
          <th scope="col">CTR</th>
          <th scope="col">position</th>
        </tr>
      </thead>
      <tbody>
        {inspection.sample.map(({ line, cells, understood }) =>
          typeof understood === 'string' ? (
            <tr key={line}>
              <td className="muted">{line}</td>
              <td colSpan={9} className="text-left! whitespace-normal!">
                <span className="text-error">refused: {understood}</span>{' '}
                <span className="muted break-all">{cells.join(' | ').slice(0, 200)}</span>
              </td>
            </tr>
          ) : (
            <tr key={line}>
              <td className="muted">{line}</td>
              <td className="text-left!">{isoDay(understood.day)}</td>
              <td className="text-left!">{pagePath(understood.address)}</td>
              {query != null && <td className="text-left!">{understood.query}</td>}
              {device != null && <td>{DEVICE_NAMES[understood.device]}</td>}
              {country != null && <td>{understood.country}</td>}
              <td>{count(understood.clicks)}</td>
              <td>{count(understood.impressions)}</td>
              <td>
                {metricValue(
                  'ctr',
                  understood.impressions > 0 ? understood.clicks / understood.impressions : null,
                )}
              </td>
              <td>{metricValue('position', positionOf(understood))}</td>
            </tr>
          ),
        )}
      </tbody>
    </table>
  );
}

function positionOf({ positionSum, impressions }: FigureRow): number | null {
  return positionSum === null || impressions === 0 ? null : positionSum / impressions;
}
