import { answering, Problem } from '@/app/problem';
import { undoInWorker } from '@/jobs/runner';
import { database } from '@/store/database';
import { findImport } from '@/store/imports';
import { asId } from '../../../request';
import { importToJson } from '../../../serialise';

type Context = { params: Promise<{ importId: string }> };

async function act({ params }: Context, task: 'undo' | 'redo'): Promise<Response> {
  const db = database();
  const { importId } = await params;
  const row = findImport(db, asId(importId));
  if (!row || row.state === 'draft') throw new Problem(404, `There is no import ${importId}.`);
  if (!(await undoInWorker(task, row.siteId, row.id))) {
    throw new Problem(
      409,
      task === 'undo' ? `Import ${row.id} is ${row.state}.` : `Import ${row.id} is not undone.`,
    );
  }
  return Response.json(importToJson(findImport(db, row.id)!, []));
}

export const POST = answering((_request: Request, context: Context) => act(context, 'undo'));
export const DELETE = answering((_request: Request, context: Context) => act(context, 'redo'));
