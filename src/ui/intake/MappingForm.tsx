'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { GRAINS } from '@/core/facts/grains';
import { FIELD_NAMES, FIELDS, type Field } from '@/core/intake/columns';
import { needsPeriod } from '@/core/intake/grain';
import type { Inspection } from '@/core/intake/inspection';
import { plainValue, type Choice } from '@/core/intake/counted';
import { count, plural } from '@/core/words/format';
import { ChoiceField } from './ChoiceField';
import { Preview } from './Preview';
import { ColumnFields } from './ColumnFields';
import { useImportForm, type ImportFormProps } from './useImportForm';
import { DateOrderQuestion } from './DateOrderQuestion';
import { parseIsoDay } from '@/core/calendar/day';
import { DayRangeField } from '../kit/dates/DayRangeField';

/** Shows how a file will be understood, lets columns be mapped by hand, and asks what the file leaves open. */
export function MappingForm(props: ImportFormProps<Inspection>) {
  const router = useRouter();
  const { form, seen, stated, busy, error, state, drop } = useImportForm({
    ...props,
    what: `import:${props.importId}`,
    settingsOf: ({ mapping }, all) => ({ mapping, ...all }),
    done: router.refresh,
  });
  const [period, setPeriod] = useState<{ firstDay: string; lastDay: string } | null>(null);
  // Once a question has been asked it stays, so that the answer can be changed.
  const askedOrder =
    stated.dateOrder !== undefined ||
    props.initial.dateOrder === 'ambiguous' ||
    seen.dateOrder === 'ambiguous';
  const askedPeriod = seen.grain !== null && needsPeriod(seen.grain, seen.mapping);
  const shownPeriod = period ?? stated.period ?? { firstDay: '', lastDay: '' };
  const mapColumn = (column: number, field: Field | '') => {
    const mapping = { ...seen.mapping };
    for (const other of FIELDS) if (mapping[other] === column) mapping[other] = null;
    if (field !== '') mapping[field] = column;
    state({ mapping });
  };
  const stateHeadLine = (line: string) => {
    const headLine = Number(line);
    // Another head has other columns.
    if (Number.isInteger(headLine) && headLine >= 1 && headLine <= 1000)
      state({ headLine, mapping: undefined });
  };
  const statePeriod = (next: { firstDay: string; lastDay: string }) => {
    setPeriod(next);
    if (parseIsoDay(next.firstDay) !== null && parseIsoDay(next.lastDay) !== null) state({ period: next });
  };
  const stateCounted = (choice: Choice, values: readonly string[]) =>
    state({ counted: { ...stated.counted, [choice]: values.map(plainValue) } });
  const { looked } = seen;
  const allRefused = looked.rows > 0 && looked.refused === looked.rows;
  const open = seen.mappingProblems.length + seen.questions.length > 0 || allRefused;

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
        {askedOrder && (
          <DateOrderQuestion order={stated.dateOrder} onState={(dateOrder) => state({ dateOrder })} />
        )}
        {askedPeriod && (
          <fieldset className="mt-4 border-l-3 border-(--band) pl-3">
            <legend className="sr-only">Days that the rows hold for</legend>
            <p className="font-semibold">
              The rows have no dates, so they hold for a period as a whole. Which days is it?
            </p>
            <DayRangeField
              className="input-sm mt-1"
              labels={['first day', 'last day']}
              value={{ from: shownPeriod.firstDay, to: shownPeriod.lastDay }}
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
        <Preview inspection={seen} />
      </section>

      <div className="flex items-center gap-4">
        <button
          type="button"
          className="btn btn-primary"
          disabled={busy || open}
          onClick={() => void form.submit()}
        >
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
