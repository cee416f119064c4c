import { AppLink } from '../kit/AppLink';
import { mediumDay, plural, count } from '@/core/words/format';
import type { Day } from '@/core/calendar/day';
import { GRAINS, type Grain } from '@/core/facts/grains';
import type { AddressRules } from '@/core/model/addressRules';
import type { Act } from '../kit/attempt';
import { routes } from '../shell/routes';
import { UndoButton } from './UndoButton';
import { FiguresTable } from '../kit/table/FiguresTable';

/** An import as its screen and the list of imports show it. A draft waits to be confirmed. */
export type ImportLine = {
  readonly id: number;
  readonly fileName: string;
  readonly state: 'draft' | 'queued' | 'running' | 'done' | 'failed' | 'undone';
  readonly about: 'figures' | 'changes';
  readonly grain: Grain | null;
  readonly dialect: string | null;
  readonly bytesTotal: number;
  readonly bytesRead: number;
  readonly createdAt: string;
  readonly rowsRead: number;
  readonly rowsStored: number;
  readonly rowsReplaced: number;
  readonly rowsChanged: number;
  readonly rowsRepeated: number;
  readonly rowsRefused: number;
  readonly rowsLeftOut: number;
  readonly firstDay: Day | null;
  readonly lastDay: Day | null;
  readonly failure: string | null;
  /** Since when it lies folded together with older files, and can no longer be undone. */
  readonly foldedAt: string | null;
};

type Props = {
  siteId: number;
  line: ImportLine;
  problems: readonly { line: number; message: string }[];
  /** Undoes the import, or lets it count again. */
  undo: Act<[siteId: number, importId: number, task: 'undo' | 'redo']>;
  /** That most of its pages miss the other source by their spelling alone, and the rules that would join them. */
  missed: { readonly sentence: string; readonly rules: AddressRules } | null;
  /** Changes of it that stand in the ledger; null for figures. */
  changes: number | null;
};

/** What became of a file: what was stored, what was refused and why. */
export function ImportSummary({ siteId, line, problems, undo, missed, changes }: Props) {
  return (
    <div className="space-y-5">
      {line.state === 'failed' ? (
        <p role="alert" className="font-serif text-xl leading-snug">
          <span className="text-error">Nothing was stored.</span> {line.failure}
        </p>
      ) : line.state === 'undone' ? (
        <p className="font-serif text-xl leading-snug">
          {changes === null
            ? `This file is undone: none of its ${plural(line.rowsStored, 'row')} count, and what they had replaced stands again.`
            : 'This sheet is undone: its changes are no longer in the ledger.'}
        </p>
      ) : changes !== null ? (
        <p className="font-serif text-xl leading-snug">
          {line.rowsStored === 0
            ? 'Nothing new: all of its rows were in the ledger already.'
            : `${plural(line.rowsStored, 'row')} of the sheet ${line.rowsStored === 1 ? 'is' : 'are'} in the ledger, as ${plural(changes, 'change')}.`}
        </p>
      ) : (
        <p className="font-serif text-xl leading-snug">
          {plural(line.rowsStored, 'row')} {line.grain && GRAINS[line.grain].name}{' '}
          {line.rowsStored === 1 ? 'is' : 'are'} in
          {line.firstDay !== null && line.lastDay !== null && (
            <>
              {line.firstDay === line.lastDay
                ? `, of ${mediumDay(line.firstDay)}`
                : `, from ${mediumDay(line.firstDay)} to ${mediumDay(line.lastDay)}`}
            </>
          )}
          .
        </p>
      )}
      {line.foldedAt !== null && (
        <p className="muted max-w-3xl">
          What it replaced was replaced so long ago that it has been folded together with it (
          {line.foldedAt.slice(0, 10)}): this file can no longer be undone. How long that takes is set in the
          settings.
        </p>
      )}
      {missed && (
        <p className="max-w-3xl border-l-3 border-(--band) pl-3">
          {missed.sentence} As it stands, their figures do not meet.{' '}
          <AppLink href={routes.addressesWith(siteId, missed.rules)} className="inline-link">
            See the rule that joins them, and apply it
          </AppLink>
        </p>
      )}
      {line.dialect && <p className="muted">Read as {line.dialect}.</p>}
      <dl className="grid w-fit grid-cols-[auto_auto] gap-x-8 gap-y-1">
        <Count name="rows read" value={line.rowsRead} />
        <Count name="stored" value={line.rowsStored} />
        {changes === null ? (
          <>
            <Count name="of these, were there before" value={line.rowsReplaced} />
            <Count name="and of those, with other values" value={line.rowsChanged} />
            <Count name="repeated by a later line, which stands" value={line.rowsRepeated} />
          </>
        ) : (
          <Count name="in the ledger already" value={line.rowsRepeated} />
        )}
        <Count name="refused" value={line.rowsRefused} />
        {line.rowsLeftOut > 0 && (
          <Count name="left out, being of a kind that does not count" value={line.rowsLeftOut} />
        )}
      </dl>
      {line.rowsRefused > 0 && (
        <section aria-labelledby="refused">
          <div className="flex items-baseline gap-4">
            <h2 id="refused" className="text-xl">
              Refused rows
            </h2>
            <a
              href={`${routes.import(siteId, line.id)}/refused`}
              className="inline-link text-[0.85rem]"
              download
            >
              Save them as CSV
            </a>
          </div>
          <FiguresTable
            label="Refused rows"
            rows={problems}
            rowKey={(problem) => problem.line}
            columns={[
              { id: 'line', className: 'w-16', value: (problem) => problem.line },
              {
                id: 'reason',
                text: true,
                cellClass: 'whitespace-normal!',
                value: ({ message }) => message,
              },
            ]}
          />
          {line.rowsRefused > problems.length && (
            <p className="muted mt-1">
              and {count(line.rowsRefused - problems.length)} more, all in the file to save.
            </p>
          )}
        </section>
      )}
      <p className="flex gap-3">
        {line.state === 'done' && line.foldedAt === null && (
          <UndoButton siteId={siteId} importId={line.id} task="undo" undo={undo} />
        )}
        {line.state === 'undone' && <UndoButton siteId={siteId} importId={line.id} task="redo" undo={undo} />}
        {line.state === 'done' && (
          <AppLink href={routes.ledger(siteId)} className="btn btn-primary btn-sm">
            To the ledger
          </AppLink>
        )}
        <AppLink href={routes.intake(siteId)} className="btn btn-outline btn-sm">
          {line.state === 'done' ? 'Bring in another file' : 'Try another file'}
        </AppLink>
      </p>
    </div>
  );
}

function Count({ name, value }: { name: string; value: number }) {
  return (
    <>
      <dt>{name}</dt>
      <dd className="text-right font-semibold">{count(value)}</dd>
    </>
  );
}
