import { z } from 'zod';
import { newReportSchema } from '@/core/model/report';
import { reportHtml } from '@/core/report/html';
import { reportMarkdown } from '@/core/report/markdown';
import { ask } from '@/app/ask';
import { checkLogo } from '@/services/report/logo';
import { shownReport } from '@/services/report/shown';
import { reportWorkbook } from '@/services/report/workbook';
import { findIssue, findReport, saveReport, setReportDeleted } from '@/store/reports/reports';
import { Problem } from '@/app/problem';
import { toJson } from '@/core/model/json';
import { reportJson, shownReportJson } from '@/core/model/reportJson';
import { answer, empty, operation } from '../../doorway';

const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
const text = z.string();

export const GET = operation(
  {
    summary: 'A report: what it is about, or what it says in one of its forms',
    on: 'report',
    may: 'read',
    query: z.object({
      format: z.enum(['html', 'md', 'xlsx', 'json']).optional().meta({
        description: 'Absent: only what it is about.',
      }),
      issue: z.coerce.number().int().positive().optional().meta({
        description: 'As it was sent; absent: as its figures stand now.',
      }),
    }),
    answers: {
      '200': {
        description: 'The report',
        content: {
          'application/json': { schema: z.union([reportJson, shownReportJson]) },
          'text/html': { schema: text },
          'text/markdown': { schema: text },
          [XLSX]: { schema: text.meta({ format: 'binary' }) },
        },
      },
    },
  },
  async ({ db, report, query: { format, issue } }) => {
    if (format === undefined) return Response.json(toJson(reportJson, report));
    const content =
      issue === undefined ? await ask('report', { siteId: report.siteId, reportId: report.id }) : null;
    const shown =
      issue === undefined ? content && shownReport(db, report, content) : findIssue(db, report.id, issue);
    if (!shown)
      throw new Problem(
        issue === undefined ? 409 : 404,
        issue === undefined ? 'There are no figures to report on yet.' : `There is no issue ${issue}.`,
      );
    if (format === 'json') return Response.json(toJson(shownReportJson, shown));
    const name = report.title.replace(/[^\w .-]+/g, '-').slice(0, 80);
    const file = (type: string, as: string, body: string | Uint8Array<ArrayBuffer>) =>
      new Response(body, {
        headers: { 'Content-Type': type, 'Content-Disposition': `attachment; filename="${name}.${as}"` },
      });
    if (format === 'html') return file('text/html; charset=utf-8', 'html', reportHtml(shown));
    if (format === 'md') return file('text/markdown; charset=utf-8', 'md', reportMarkdown(shown));
    return file(XLSX, 'xlsx', new Uint8Array(await reportWorkbook(shown)));
  },
);

export const PUT = operation(
  {
    summary: 'Make a report anew; what was sent of it stays as it was',
    on: 'report',
    may: 'edit',
    auditAction: 'edited a report',
    body: newReportSchema,
    answers: { '200': answer('The report', reportJson) },
  },
  async ({ db, report, body, guard }) => {
    checkLogo(body.logo);
    await saveReport(db, report.id, () => body, guard);
    return Response.json(toJson(reportJson, findReport(db, report.id)!));
  },
);

export const DELETE = operation(
  {
    summary: 'Delete a report',
    on: 'report',
    may: 'edit',
    auditAction: 'deleted a report',
    answers: { '204': empty('Deleted') },
  },
  async ({ db, report, guard }) => {
    await setReportDeleted(db, report.id, true, guard);
    return new Response(null, { status: 204 });
  },
);
