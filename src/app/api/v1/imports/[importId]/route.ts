import { database } from '@/store/database';
import { findImport, listProblems, PROBLEMS_SHOWN } from '@/store/imports';
import { answering, Problem } from '@/app/problem';
import { asId } from '../../request';
import { importToJson } from '../../serialise';

export const GET = answering(
  async (_request: Request, { params }: { params: Promise<{ importId: string }> }) => {
    const db = database();
    const { importId } = await params;
    const row = findImport(db, asId(importId));
    if (!row || row.state === 'draft') throw new Problem(404, `There is no import ${importId}.`);
    return Response.json(importToJson(row, listProblems(db, row.id, PROBLEMS_SHOWN)));
  },
);
