'use client';

import { useRouter } from 'next/navigation';
import type { IntakeSettings } from '@/core/intake/settings';
import {
  LEDGER_FIELD_NAMES,
  LEDGER_FIELDS,
  SHEET_FIELDS,
  type LedgerField,
} from '@/core/intake/ledgerColumns';
import type { LedgerInspection } from '@/core/intake/ledgerInspection';
import { historyLabel } from '@/core/model/changeFields';
import { changeKindName, type NewChange } from '@/core/model/change';
import { pagePath } from '@/core/address/address';
import { plural } from '@/core/words/format';
import { routes } from '../shell/routes';
import { FiguresTable, type Column } from '../kit/table/FiguresTable';
import { Refused } from './Preview';
import { ColumnFields } from './ColumnFields';
import { useImportForm, type ImportFormProps } from './useImportForm';
import { DateOrderQuestion } from './DateOrderQuestion';
import { UnsureKinds } from './UnsureKinds';

/** Shows how a sheet of changes will be understood, lets columns be mapped by hand, and asks what it leaves open. */
export function LedgerForm(props: ImportFormProps<LedgerInspection>) {
  const { siteId, importId, initial } = props;
  const router = useRouter();
  const { form, seen, stated, busy, error, state, drop } = useImportForm({
    ...props,
    what: `import:${importId}:changes`,
    settingsOf: ({ mapping }, { dateOrder, ledger }) => ({
      dateOrder,
      ledger: { join: initial.join, ...ledger, mapping },
    }),
    done: () => {
      router.push(routes.import(siteId, importId));
      router.refresh();
    },
  });
  const asked = initial.asksDateOrder || seen.asksDateOrder || stated.dateOrder !== undefined;
  const join = stated.ledger?.join ?? initial.join;
  const stateLedger = (edit: NonNullable<IntakeSettings['ledger']>) =>
    state({ ledger: { join, ...stated.ledger, mapping: seen.mapping, ...edit } });
  const mapColumn = (column: number, field: LedgerField | '') => {
    const mapping = { ...seen.mapping };
    for (const other of LEDGER_FIELDS) if (mapping[other] === column) mapping[other] = null;
    if (field !== '') mapping[field] = column;
    stateLedger({ mapping });
  };
  const open = seen.problems.length > 0 || seen.asksDateOrder || seen.rows === seen.refused;

  return (
    <div className="space-y-6">
      <p className="font-serif text-xl">
        A ledger of changes: {plural(seen.rows - seen.refused - seen.known, 'row')} that{' '}
        {seen.rows - seen.refused - seen.known === 1 ? 'is' : 'are'} new
        {seen.known > 0 && `, ${seen.known} in the ledger already`}
        {seen.refused > 0 && `, ${seen.refused} that cannot be read`}
        <span className="muted"> · {seen.dialect}</span>
      </p>
      <section aria-labelledby="columns">
        <ColumnFields
          head={seen.head}
          fields={LEDGER_FIELDS}
          names={LEDGER_FIELD_NAMES}
          mapping={seen.mapping}
          busy={busy}
          onMap={mapColumn}
        />
        {asked && (
          <DateOrderQuestion order={stated.dateOrder} onState={(dateOrder) => state({ dateOrder })} />
        )}
        <UnsureKinds unsure={seen.unsure} busy={busy} onState={(kinds) => stateLedger({ kinds })} />
        <label className="mt-4 flex items-baseline gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm translate-y-0.5"
            checked={join}
            disabled={busy}
            onChange={(e) => stateLedger({ join: e.target.checked })}
          />
          rows of the same day and wording are one change on several pages
        </label>
        {[...seen.problems, ...(error ? [error] : [])].map((problem) => (
          <p key={problem} role="alert" className="mt-2 font-medium text-error">
            {problem}
          </p>
        ))}
      </section>
      <section aria-labelledby="preview">
        <h2 id="preview" className="mb-1 text-xl">
          The first rows, as they will be understood
        </h2>
        <LedgerPreview sample={seen.sample} />
      </section>
      <div className="flex items-center gap-4">
        <button
          type="button"
          className="btn btn-primary"
          disabled={busy || open || seen.changes === 0}
          onClick={() => void form.submit()}
        >
          Log {plural(seen.changes, 'change')}
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

function waitsFor({ problems, asksDateOrder, changes, rows, refused }: LedgerInspection): string {
  if (problems.length > 0) return 'Say first what is missing above.';
  if (asksDateOrder) return 'Answer the question above first; until then the rows are shown as day first.';
  if (rows === refused) return 'None of the rows can be read as it stands.';
  if (changes === 0) return 'All of its rows are in the ledger already.';
  return 'Rows that are in the ledger already change nothing, and all of it can be undone.';
}

const PREVIEWED: readonly { name: string; of: (change: NewChange) => string }[] = [
  { name: 'day', of: ({ day, planned }) => (planned ? `${day}, planned` : day) },
  { name: 'pages', of: ({ pages }) => pages.map(pagePath).join(', ') },
  ...SHEET_FIELDS.map((field) => ({
    name: historyLabel(field),
    of: (change: NewChange) => (field === 'kind' ? changeKindName(change.kind) : String(change[field] ?? '')),
  })),
];

function LedgerPreview({ sample }: Pick<LedgerInspection, 'sample'>) {
  return (
    <FiguresTable
      label="The first rows, as they will be understood"
      sortable={false}
      rows={sample}
      rowKey={({ line }) => line}
      wide={({ understood, cells }) =>
        typeof understood === 'string' ? <Refused reason={understood} cells={cells} /> : null
      }
      columns={[
        { id: 'line', cellClass: 'muted font-normal!', cell: ({ line }) => line },
        ...PREVIEWED.map(({ name, of }): Column<LedgerInspection['sample'][number]> => ({
          id: name,
          text: true,
          cellClass: 'max-w-60 truncate',
          cell: ({ understood }) =>
            typeof understood !== 'string' && <span title={of(understood)}>{of(understood)}</span>,
        })),
      ]}
    />
  );
}
