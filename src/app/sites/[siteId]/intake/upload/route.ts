import { answering, Problem } from '@/app/problem';
import { asNode, siteOf, type SiteParams } from '@/app/api/v1/request';
import { keepDraft } from '@/jobs/queueFile';

/** Takes a file from the intake screen as a draft, to be looked through and confirmed before anything is stored. */
export const POST = answering(async (request: Request, context: SiteParams) => {
  const { db, site } = await siteOf(context);
  if (!request.body) throw new Problem(400, 'The file is empty.');
  const fileName = new URL(request.url).searchParams.get('fileName')?.slice(0, 200) || 'file.csv';
  const id = await keepDraft(db, site.id, asNode(request.body), fileName);
  return Response.json({ id }, { status: 201 });
});
