import { listProblems, PROBLEMS_SHOWN } from '@/store/figures/imports';
import { missedJoins } from '@/services/missedJoins';
import { findSite } from '@/store/sites';
import { answer, operation } from '../../doorway';
import { oneImportJson } from '../../schemas';
import { importToJson } from '../../serialise';

export const GET = operation(
  { summary: 'How far an import is', on: 'import', answers: { '200': answer('The import', oneImportJson) } },
  ({ db, row }) => {
    const site = findSite(db, row.siteId);
    return Response.json({
      ...importToJson(row, listProblems(db, row.id, PROBLEMS_SHOWN)),
      missedJoins: site && missedJoins(db, site, row),
    });
  },
);
