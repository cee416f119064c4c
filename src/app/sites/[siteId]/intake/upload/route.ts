import { answering, Problem } from '@/app/problem';
import { siteOf, type SiteParams } from '@/app/api/v1/request';
import { queueFile } from '@/jobs/queueFile';

/** Takes a file from the intake screen as a draft, to be looked through and confirmed before anything is stored. */
export const POST = answering(async (request: Request, context: SiteParams) => {
  const { db, site } = await siteOf(context);
  if (!request.body) throw new Problem(400, 'The file is empty.');
  const fileName = new URL(request.url).searchParams.get('fileName')?.slice(0, 200) || 'file.csv';
  const id = await queueFile(db, site.id, request.body, { fileName, state: 'draft' });
  return Response.json({ id }, { status: 201 });
});
