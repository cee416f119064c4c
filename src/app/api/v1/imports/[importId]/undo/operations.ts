import { Problem } from '@/app/problem';
import { undoInWorker } from '@/jobs/inWorker';
import type { Db } from '@/store/database';
import { findImport, type ImportRow } from '@/store/figures/imports';
import { importJson } from '@/core/intake/importJson';
import { toJson } from '@/core/model/json';
import { answer, operation, problem } from '../../../doorway';

export const POST = operation(
  {
    summary: 'Take a file out of the figures again',
    on: 'import',
    may: 'edit',
    auditAction: 'undid a file',
    answers: {
      '200': answer('The import', importJson),
      '409': problem('It is not done, undone already, or too old to be undone.'),
    },
  },
  ({ db, row }) => act(db, row, 'undo'),
);

export const DELETE = operation(
  {
    summary: 'Let an undone file count again',
    on: 'import',
    may: 'edit',
    auditAction: 'let an undone file count again',
    answers: { '200': answer('The import', importJson), '409': problem('It is not undone.') },
  },
  ({ db, row }) => act(db, row, 'redo'),
);

async function act(db: Db, row: ImportRow, task: 'undo' | 'redo'): Promise<Response> {
  if (!(await undoInWorker(task, row.siteId, row.id))) {
    const why = row.foldedAt
      ? `Import ${row.id} lies folded together with others since ${row.foldedAt.slice(0, 10)}, and can no longer be undone.`
      : task === 'undo'
        ? `Import ${row.id} is ${row.state}.`
        : `Import ${row.id} is not undone.`;
    throw new Problem(409, why);
  }
  return Response.json(toJson(importJson, { ...findImport(db, row.id)!, problems: [] }));
}
