import { intakeSettingsSchema } from '@/core/intake/settings';
import { queueFile } from '@/jobs/queueFile';
import { startRunner } from '@/jobs/runner';
import { answering, Problem } from '@/app/problem';
import { siteOf, type SiteParams } from '../../../request';

const settingsSchema = intakeSettingsSchema.pick({ dateOrder: true });

export const POST = answering(async (request: Request, context: SiteParams) => {
  const { db, site } = await siteOf(context);
  const type = request.headers.get('content-type')?.split(';')[0]?.trim().toLowerCase();
  if (type !== 'text/csv') throw new Problem(415, 'Send the CSV as the body, with Content-Type: text/csv.');
  if (!request.body) throw new Problem(400, 'The body is empty.');
  const query = new URL(request.url).searchParams;
  const settings = settingsSchema.parse({ dateOrder: query.get('dateOrder') ?? undefined });
  const fileName = query.get('fileName')?.slice(0, 200) || 'sent by a script.csv';
  const id = await queueFile(db, site.id, request.body, { fileName, state: 'queued', settings });
  startRunner();
  return Response.json({ id }, { status: 202, headers: { Location: `/api/v1/imports/${id}` } });
});
