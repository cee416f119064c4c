import { answer, operation } from '../../doorway';
import { oneImportJson } from '../../schemas';
import { represented } from '../../versions';

export const GET = operation(
  {
    summary: 'How far an import is',
    on: 'import',
    may: 'read',
    answers: { '200': answer('The import', oneImportJson) },
  },
  ({ db, site, row }) => Response.json(represented(db, 'import', { site, row })),
);
