import { represented } from '@/app/resources';
import { oneImportJson } from '@/core/intake/importJson';
import { answer, operation } from '../../doorway';

export const GET = operation(
  {
    summary: 'How far an import is',
    on: 'import',
    may: 'read',
    answers: { '200': answer('The import', oneImportJson) },
  },
  ({ db, site, row }) => Response.json(represented(db, 'import', { site, row })),
);
