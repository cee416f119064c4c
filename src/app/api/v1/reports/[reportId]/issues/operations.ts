import { z } from 'zod';
import { dayJson, toJson } from '@/core/model/json';
import { ask } from '@/app/ask';
import { shownReport } from '@/services/report/shown';
import { issueReport, issuesOf } from '@/store/reports/reports';
import { Problem } from '@/app/problem';
import { answer, operation } from '../../../doorway';

const issueJson = z.object({ number: z.int(), day: dayJson }).meta({ id: 'ReportIssue' });
const issuesJson = z.object({ items: z.array(issueJson), total: z.int() });

export const GET = operation(
  {
    summary: 'The issues of a report, the last first',
    on: 'report',
    may: 'read',
    answers: { '200': answer('The issues', issuesJson) },
  },
  ({ db, report }) => {
    const items = issuesOf(db, report.id);
    return Response.json(toJson(issuesJson, { items, total: items.length }));
  },
);

export const POST = operation(
  {
    summary: 'Keep a report as it is sent: it stays as it is now',
    on: 'report',
    may: 'edit',
    auditAction: 'kept a report as sent',
    answers: { '201': answer('The issue', issueJson) },
  },
  async ({ db, report }) => {
    const content = await ask('report', { siteId: report.siteId, reportId: report.id });
    if (!content) throw new Problem(409, 'There are no figures to report on yet.');
    const number = await issueReport(db, report.id, (own, on) => ({
      ...shownReport(db, report, content),
      issue: { number: own, day: on },
    }));
    const made = issuesOf(db, report.id).find((one) => one.number === number)!;
    return Response.json(toJson(issueJson, made), { status: 201 });
  },
);
