import type { Metadata } from 'next';
import Link from 'next/link';
import { FileRefused } from '@/jobs/intake/fileRefused';
import { inspectUpload } from '@/jobs/runner';
import type { Inspection } from '@/core/intake/inspection';
import type { Site } from '@/core/model/site';
import { listProblems, PROBLEMS_SHOWN, type ImportRow } from '@/store/imports';
import { ImportProgress } from '@/ui/intake/ImportProgress';
import { ImportSummary } from '@/ui/intake/ImportSummary';
import { MappingForm } from '@/ui/intake/MappingForm';
import { Screen } from '@/ui/parts/Screen';
import { routes } from '@/ui/shell/routes';
import {
  confirmImport,
  discardDraft,
  importFinished,
  inspectDraft,
  stopImport,
  undoOrRedo,
} from '../actions';
import { importFromPath, type ImportPageParams } from '../import';
import { importLine } from '../importLine';

export const metadata: Metadata = { title: 'A file brought in' };

export default async function ImportPage({ params }: { params: Promise<ImportPageParams> }) {
  const { db, site, row } = importFromPath(await params);
  if (row.state === 'draft') return <Draft site={site} row={row} />;
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
      />
    </Screen>
  );
}

async function Draft({ site, row }: { site: Site; row: ImportRow }) {
  const seen = await lookThrough(site, row);
  if ('refused' in seen) {
    return (
      <Screen title={row.fileName}>
        <p role="alert" className="font-serif text-xl leading-snug">
          {seen.refused} <span className="muted">Nothing was stored.</span>
        </p>
        <Link href={routes.intake(site.id)} prefetch={false} className="btn btn-outline btn-sm mt-4">
          Try another file
        </Link>
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
