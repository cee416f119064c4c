import { z } from 'zod';
import { newReportSchema } from '@/core/model/report';
import { checkLogo } from '@/services/report/logo';
import { addReport, findReport, listReports } from '@/store/reports/reports';
import { toJson } from '@/core/model/json';
import { reportJson } from '@/core/model/reportJson';
import { answer, operation } from '../../../doorway';

export const GET = operation(
  {
    summary: 'The reports of a site, the last made first',
    on: 'site',
    may: 'read',
    answers: { '200': answer('The reports', z.object({ items: z.array(reportJson), total: z.int() })) },
  },
  ({ db, site }) => {
    const items = listReports(db, site.id).map((report) => toJson(reportJson, report));
    return Response.json({ items, total: items.length });
  },
);

export const POST = operation(
  {
    summary: 'Make a report',
    on: 'site',
    may: 'edit',
    auditAction: 'made a report',
    body: newReportSchema,
    answers: { '201': answer('The report', reportJson) },
  },
  async ({ db, site, body }) => {
    checkLogo(body.logo);
    const id = await addReport(db, site.id, body);
    return Response.json(toJson(reportJson, findReport(db, id)!), { status: 201 });
  },
);
