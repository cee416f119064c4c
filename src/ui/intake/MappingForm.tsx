'use client';

import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { GRAINS } from '@/core/facts/grains';
import { FIELD_NAMES, FIELDS, type Field } from '@/core/intake/columns';
import type { DateOrder } from '@/core/intake/dates';
import { needsPeriod } from '@/core/intake/grain';
import type { Inspection } from '@/core/intake/inspection';
import type { IntakeSettings } from '@/core/intake/settings';
import { plainValue, type Choice } from '@/core/intake/counted';
import { count, plural } from '@/core/words/format';
import { attempt, failureOf, type Act } from '../kit/attempt';
import { useDraft } from '../kit/useDraft';
import { routes } from '../shell/routes';
import { ChoiceField } from './ChoiceField';
import { Preview } from './Preview';
import { ColumnFields } from './ColumnFields';
import { DateOrderQuestion } from './DateOrderQuestion';
import { parseIsoDay } from '@/core/calendar/day';
import { DayRangeField } from '../kit/dates/DayRangeField';

type Props = {
  siteId: number;
  importId: number;
  initial: Inspection;
  inspect: Act<[siteId: number, importId: number, stated: IntakeSettings], Inspection>;
  confirm: Act<[siteId: number, importId: number, stated: IntakeSettings]>;
  discard: Act<[siteId: number, importId: number]>;
};

const NOTHING_STATED: IntakeSettings = {};

/** Shows how a file will be understood, lets columns be mapped by hand, and asks what the file leaves open. */
export function MappingForm({ siteId, importId, initial, inspect, confirm, discard }: Props) {
  const router = useRouter();
  const [seen, setSeen] = useState(initial);
  const [stated, setStated] = useState<Pick<IntakeSettings, 'dateOrder' | 'counted' | 'period' | 'headLine'>>(
    {},
  );
  const [period, setPeriod] = useState({ firstDay: '', lastDay: '' });
  const [error, setError] = useState<string | null>(null);
  const [busy, start] = useTransition();
  // Once a question has been asked it stays, so that the answer can be changed.
  const [askedOrder, setAskedOrder] = useState(initial.dateOrder === 'ambiguous');
  const kept = useDraft<IntakeSettings>({
    what: `import:${importId}`,
    base: NOTHING_STATED,
    show: ({ mapping, ...rest }) => {
      setStated(rest);
      if (rest.period) setPeriod(rest.period);
      look({ mapping, ...rest });
    },
  });
  const askedPeriod = seen.grain !== null && needsPeriod(seen.grain, seen.mapping);

  const lookAgain = (settings: IntakeSettings) => {
    kept.keep(settings);
    look(settings);
  };
  const look = (settings: IntakeSettings) =>
    start(async () => {
      const result = await attempt(() => inspect(siteId, importId, settings));
      if (!result.ok) {
        setError(failureOf(result));
        return;
      }
      setError(null);
      setSeen(result.value);
      if (result.value.dateOrder === 'ambiguous') setAskedOrder(true);
    });
  const mapColumn = (column: number, field: Field | '') => {
    const mapping = { ...seen.mapping };
    for (const other of FIELDS) if (mapping[other] === column) mapping[other] = null;
    if (field !== '') mapping[field] = column;
    lookAgain({ mapping, ...stated });
  };
  const stateOrder = (dateOrder: DateOrder) => {
    setStated({ ...stated, dateOrder });
    lookAgain({ mapping: seen.mapping, ...stated, dateOrder });
  };
  const stateHeadLine = (line: string) => {
    const headLine = Number(line);
    if (!Number.isInteger(headLine) || headLine < 1 || headLine > 1000) return;
    setStated({ ...stated, headLine });
    // Another head has other columns.
    lookAgain({ ...stated, headLine });
  };
  const statePeriod = (next: typeof period) => {
    setPeriod(next);
    if (parseIsoDay(next.firstDay) === null || parseIsoDay(next.lastDay) === null) return;
    setStated({ ...stated, period: next });
    lookAgain({ mapping: seen.mapping, ...stated, period: next });
  };
  const stateCounted = (choice: Choice, values: readonly string[]) => {
    const counted = { ...stated.counted, [choice]: values.map(plainValue) };
    setStated({ ...stated, counted });
    lookAgain({ mapping: seen.mapping, ...stated, counted });
  };
  const { looked } = seen;
  const allRefused = looked.rows > 0 && looked.refused === looked.rows;
  const open = seen.mappingProblems.length + seen.questions.length > 0 || allRefused;
  const bringIn = () =>
    start(async () => {
      const result = await attempt(() => confirm(siteId, importId, { mapping: seen.mapping, ...stated }));
      setError(result.ok ? null : failureOf(result));
      if (!result.ok) return;
      kept.forget();
      router.refresh();
    });
  const drop = () =>
    start(async () => {
      const result = await attempt(() => discard(siteId, importId));
      setError(result.ok ? null : failureOf(result));
      if (result.ok) router.push(routes.intake(siteId));
    });

  return (
    <div className="space-y-6">
      <p className="font-serif text-xl">
        {seen.grain ? `Rows ${GRAINS[seen.grain].name}` : 'It is not clear yet what the rows are about'}
        <span className="muted"> · {seen.dialect}</span>
      </p>
      <section aria-labelledby="columns">
        <ColumnFields
          head={seen.head}
          fields={FIELDS}
          names={FIELD_NAMES}
          mapping={seen.mapping}
          busy={busy}
          onMap={mapColumn}
        />
        <label className="mt-2 flex items-center gap-2 text-[0.85rem]">
          The column names are in line
          <input
            key={seen.headLine}
            className="input input-sm w-16"
            inputMode="numeric"
            defaultValue={seen.headLine}
            disabled={busy}
            onBlur={(e) => e.target.value !== String(seen.headLine) && stateHeadLine(e.target.value)}
            onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
          />
        </label>
        {askedOrder && <DateOrderQuestion order={stated.dateOrder} onState={stateOrder} />}
        {askedPeriod && (
          <fieldset className="mt-4 border-l-3 border-(--band) pl-3">
            <legend className="sr-only">Days that the rows hold for</legend>
            <p className="font-semibold">
              The rows have no dates, so they hold for a period as a whole. Which days is it?
            </p>
            <DayRangeField
              className="input-sm mt-1"
              labels={['first day', 'last day']}
              value={{ from: period.firstDay, to: period.lastDay }}
              onChange={({ from, to }) => statePeriod({ firstDay: from, lastDay: to })}
            />
          </fieldset>
        )}
        {seen.choices.map((found) => (
          <ChoiceField
            // Another column has other values.
            key={`${found.choice} ${seen.mapping[found.choice]}`}
            found={found}
            column={seen.head[seen.mapping[found.choice] ?? -1] ?? ''}
            busy={busy}
            onChange={(values) => stateCounted(found.choice, values)}
          />
        ))}
        {seen.byAppearance && (
          <p className="mt-3 border-l-3 border-(--band) pl-3">
            The rows are divided by how the result appeared. One search can show a result in several ways, so
            such rows overlap: they are not added up, and only rows without one count.
          </p>
        )}
        {seen.grain === 'query_day' && (
          <p className="mt-3 border-l-3 border-(--band) pl-3">
            The rows name no page. They show in Queries and on each query’s own screen. On days that also have
            rows by page and query, those are used instead. Import figures by page too: opportunities and
            readings need them.
          </p>
        )}
        {[...seen.mappingProblems, ...(error ? [error] : [])].map((problem) => (
          <p key={problem} role="alert" className="mt-2 font-medium text-error">
            {problem}
          </p>
        ))}
      </section>

      <section aria-labelledby="preview">
        <h2 id="preview" className="mb-1 text-xl">
          {seen.grain === null ? 'The first rows, as they are' : 'The first rows, as they will be understood'}
        </h2>
        {looked.refused > 0 && (
          <p className="mb-1">
            {allRefused
              ? `All of the first ${plural(looked.rows, 'row')} would be refused, for the reasons below.`
              : `${count(looked.refused)} of the first ${plural(looked.rows, 'row')} would be refused. They are shown first; the others can be imported.`}
          </p>
        )}
        <div className="overflow-x-auto" tabIndex={0} role="region" aria-labelledby="preview">
          <Preview inspection={seen} />
        </div>
      </section>

      <div className="flex items-center gap-4">
        <button type="button" className="btn btn-primary" disabled={busy || open} onClick={bringIn}>
          Bring in {seen.rowsEstimated && 'about '}
          {seen.rowsCounted < seen.rows && `${count(seen.rowsCounted)} of `}
          {plural(seen.rows, 'row')}
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
function waitsFor({ mappingProblems, questions, looked }: Inspection): string {
  if (mappingProblems.length > 0) return 'Complete the fields above first.';
  if (looked.rows > 0 && looked.refused === looked.rows)
    return 'Every row would be refused. Check the columns and the line of their names.';
  if (questions.includes('counted')) return 'None of the rows counts as it stands; say above which do.';
  if (questions.includes('dateOrder'))
    return 'Answer the question above first; until then the rows are shown as day first.';
  if (questions.length > 0) return 'Answer the question above first.';
  return 'Rows that are there already are replaced, not doubled, and come back if you undo this.';
}
