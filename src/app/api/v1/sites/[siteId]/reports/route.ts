import { z } from 'zod';
import { newReportSchema } from '@/core/model/report';
import { checkLogo } from '@/services/report/logo';
import { addReport, findReport, listReports } from '@/store/reports/reports';
import { answer, operation } from '../../../doorway';
import { reportJson, reportToJson } from '../../../reports';

export const GET = operation(
  {
    summary: 'The reports of a site, the last made first',
    on: 'site',
    may: 'read',
    answers: { '200': answer('The reports', z.object({ items: z.array(reportJson), total: z.int() })) },
  },
  ({ db, site }) => {
    const items = listReports(db, site.id).map(reportToJson);
    return Response.json({ items, total: items.length });
  },
);

export const POST = operation(
  {
    summary: 'Make a report',
    on: 'site',
    may: 'edit',
    did: 'made a report',
    body: newReportSchema,
    answers: { '201': answer('The report', reportJson) },
  },
  async ({ db, site, body }) => {
    checkLogo(body.logo);
    const id = await addReport(db, site.id, body);
    return Response.json(reportToJson(findReport(db, id)!), { status: 201 });
  },
);
