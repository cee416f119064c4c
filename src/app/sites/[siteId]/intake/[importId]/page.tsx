import type { Metadata } from 'next';
import { AppLink } from '@/ui/kit/AppLink';
import { FileRefused } from '@/jobs/intake/fileRefused';
import { looksLikeLedger } from '@/core/intake/ledgerColumns';
import { inspectLedgerUpload, inspectUpload } from '@/jobs/inWorker';
import { changesOfSheet } from '@/store/ledger/sheetImport';
import type { Inspection } from '@/core/intake/inspection';
import type { Site } from '@/core/model/site';
import { missedJoins } from '@/services/pages/missedJoins';
import { listProblems, PROBLEMS_SHOWN, type ImportRow } from '@/store/figures/imports';
import { ImportProgress } from '@/ui/intake/ImportProgress';
import { ImportSummary } from '@/ui/intake/ImportSummary';
import { LedgerForm } from '@/ui/intake/LedgerForm';
import { MappingForm } from '@/ui/intake/MappingForm';
import { Screen } from '@/ui/kit/Screen';
import { routes } from '@/ui/shell/routes';
import {
  confirmImport,
  confirmSheet,
  discardDraft,
  importFinished,
  inspectDraft,
  inspectSheet,
  stopImport,
  undoOrRedo,
} from '../actions';
import { importFromPath, type ImportPageParams } from '../import';
import { importLine } from '../importLine';

export const metadata: Metadata = { title: 'A file brought in' };

type Props = { params: Promise<ImportPageParams>; searchParams: Promise<{ as?: string | string[] }> };

export default async function ImportPage({ params, searchParams }: Props) {
  const { db, site, row } = await importFromPath(await params);
  if (row.state === 'draft') return <Draft site={site} row={row} as={(await searchParams).as} />;
  const line = importLine(row);
  if (line.state === 'queued' || line.state === 'running') {
    return (
      <Screen title={row.fileName}>
        <ImportProgress
          siteId={site.id}
          importId={row.id}
          initial={{
            rowsRead: line.rowsRead,
            bytesRead: line.bytesRead,
            bytesTotal: line.bytesTotal,
            state: line.state,
          }}
          stop={stopImport}
          finished={importFinished}
        />
      </Screen>
    );
  }
  return (
    <Screen title={row.fileName}>
      <ImportSummary
        siteId={site.id}
        line={line}
        problems={listProblems(db, row.id, PROBLEMS_SHOWN)}
        undo={undoOrRedo}
        missed={missedJoins(db, site, row)}
        changes={row.about === 'changes' ? changesOfSheet(db, row.id) : null}
      />
    </Screen>
  );
}

type DraftProps = { site: Site; row: ImportRow; as: string | string[] | undefined };

async function Draft({ site, row, as }: DraftProps) {
  const seen = await lookThrough(site, row);
  if ('refused' in seen) {
    return (
      <Screen title={row.fileName}>
        <p role="alert" className="font-serif text-xl leading-snug">
          {seen.refused} <span className="muted">Nothing was stored.</span>
        </p>
        <AppLink href={routes.intake(site.id)} className="btn btn-outline btn-sm mt-4">
          Try another file
        </AppLink>
      </Screen>
    );
  }
  const other = (what: 'figures' | 'changes', name: string) => (
    <AppLink href={`${routes.import(site.id, row.id)}?as=${what}`} className="inline-link">
      {name}
    </AppLink>
  );
  if (as === 'changes' || (as !== 'figures' && seen.grain === null && looksLikeLedger(seen.head))) {
    return (
      <Screen title={row.fileName} lead="Nothing is stored yet. See whether it is understood as you mean it.">
        <LedgerForm
          siteId={site.id}
          importId={row.id}
          initial={await inspectLedgerUpload(row.id, site.id, {})}
          inspect={inspectSheet}
          confirm={confirmSheet}
          discard={discardDraft}
        />
        <p className="muted mt-6">Not a ledger of changes? {other('figures', 'Read it as figures')}.</p>
      </Screen>
    );
  }
  return (
    <Screen title={row.fileName} lead="Nothing is stored yet. See whether it is understood as you mean it.">
      <MappingForm
        siteId={site.id}
        importId={row.id}
        initial={seen}
        inspect={inspectDraft}
        confirm={confirmImport}
        discard={discardDraft}
      />
      {seen.grain === null && (
        <p className="muted mt-6">
          Or {other('changes', 'it is a ledger of changes that was kept in a sheet')}.
        </p>
      )}
    </Screen>
  );
}

async function lookThrough(site: Site, row: ImportRow): Promise<Inspection | { refused: string }> {
  try {
    return await inspectUpload(row.id, site, {});
  } catch (error) {
    if (error instanceof FileRefused) return { refused: error.message };
    throw error;
  }
}
