import { operation } from '@/app/api/v1/doorway';
import { unfinishedImports } from '@/store/figures/imports';

/** How far the files of a site are that wait or come in, in the order in which they run. */
export const GET = operation(
  { summary: 'Files under way', on: 'site', may: 'read', answers: {} },
  ({ db, site }) => Response.json(unfinishedImports(db, site.id)),
);
