import { z } from 'zod';
import { Problem } from '@/app/problem';
import { queueLedger } from '@/jobs/queueFile';
import { startRunner } from '@/jobs/runner';
import { answer, operation, problem } from '../../../../doorway';
import { ledgerQuerySchema } from '../../../../schemas';

export const POST = operation(
  {
    summary: 'Bring in a ledger that was kept in a sheet: CSV or spreadsheet',
    on: 'site',
    may: 'log',
    auditAction: 'brought a sheet of changes in',
    content: { 'text/csv': z.string() },
    query: ledgerQuerySchema,
    answers: {
      '202': answer('The sheet waits for its turn, as an import', z.object({ id: z.int() })),
      '413': problem('The file is too large.'),
      '422': problem('The sheet cannot be taken; `errors` names what to state (dateOrder, mapping).'),
    },
  },
  async ({ db, site, request, query: { fileName = 'ledger.csv', mapping, join, dateOrder } }) => {
    const wish = { mapping, dateOrder, join: join === undefined ? undefined : join === 'true' };
    const id = await queueLedger(db, site, request, fileName, wish);
    if (id === null) throw new Problem(400, 'The body is empty.');
    startRunner();
    return Response.json({ id }, { status: 202, headers: { Location: `/api/v1/imports/${id}` } });
  },
);
