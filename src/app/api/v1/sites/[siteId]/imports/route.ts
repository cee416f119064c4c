import { answering, Problem } from '@/app/problem';
import { keepDraft, queueDraft } from '@/jobs/queueFile';
import { startRunner } from '@/jobs/runner';
import { listImports, listProblems } from '@/store/imports';
import { asNode, siteOf, type SiteParams } from '../../../request';
import { importWishSchema } from '../../../schemas';
import { importToJson } from '../../../serialise';
import { keepFormFiles } from './form';

const FILE_TYPES = [
  'text/csv',
  'text/tab-separated-values',
  'application/gzip',
  'application/octet-stream',
  'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
];

export const GET = answering(async (_request: Request, context: SiteParams) => {
  const { db, site } = await siteOf(context);
  const rows = listImports(db, site.id).filter(({ state }) => state !== 'draft');
  return Response.json({ items: rows.map((row) => importToJson(row, listProblems(db, row.id, 0))) });
});

export const POST = answering(async (request: Request, context: SiteParams) => {
  const { db, site } = await siteOf(context);
  const type = request.headers.get('content-type')?.split(';')[0]?.trim().toLowerCase() ?? '';
  if (!request.body) throw new Problem(400, 'The body is empty.');
  const encoding = request.headers.get('content-encoding')?.trim().toLowerCase();
  if (encoding !== undefined && encoding !== 'gzip' && encoding !== 'identity')
    throw new Problem(415, 'The body may be encoded with gzip, and with nothing else.');
  const asked = Object.fromEntries(new URL(request.url).searchParams);

  // A compressed file is told by its first bytes, whoever compressed it.
  if (type === 'multipart/form-data') {
    const { drafts, fields } = await keepFormFiles(db, site.id, request);
    // Each file of a form brings its own name.
    const { dateOrder, mapping, period } = importWishSchema.parse({ ...asked, ...fields });
    const wish = { dateOrder, mapping, period };
    for (const id of drafts) await queueDraft(db, site.id, id, wish);
    startRunner();
    return accepted(drafts);
  }
  if (!FILE_TYPES.includes(type))
    throw new Problem(
      415,
      `Send the file as the body, as one of ${FILE_TYPES.join(', ')}, or as multipart/form-data.`,
    );
  const { fileName, ...wish } = importWishSchema.parse(asked);
  const id = await keepDraft(db, site.id, asNode(request.body), fileName ?? 'sent by a script.csv');
  await queueDraft(db, site.id, id, wish);
  startRunner();
  return accepted([id]);
});

function accepted(ids: readonly number[]): Response {
  return Response.json(
    { id: ids[0], ids },
    { status: 202, headers: { Location: `/api/v1/imports/${ids[0]}` } },
  );
}
