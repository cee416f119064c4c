import { z } from 'zod';
import { answering, Problem } from '@/app/problem';
import { reportHtml } from '@/core/report/html';
import { reportMarkdown } from '@/core/report/markdown';
import type { ShownReport } from '@/core/report/model';
import { ask } from '@/jobs/questions/ask';
import { findChange } from '@/store/ledger/changes';
import { siteFromPath } from '../../../site';

type Context = { params: Promise<{ siteId: string; changeId: string }> };

/** A single reading as a report of one page, for a ticket: as HTML, or as Markdown. */
export const GET = answering(async (request: Request, { params }: Context): Promise<Response> => {
  const { siteId, changeId } = await params;
  const { db, site } = siteFromPath(siteId);
  const change = /^\d{1,15}$/.test(changeId) ? findChange(db, Number(changeId)) : null;
  if (change?.siteId !== site.id) throw new Problem(404, `There is no change ${changeId.slice(0, 40)}.`);
  const as = z.enum(['html', 'md']).parse(new URL(request.url).searchParams.get('as') ?? 'html');
  const content = await ask('readingReport', { changeId: change.id });
  if (!content) throw new Problem(409, 'There are no figures to report on yet.');
  const shown: ShownReport = { content, words: {}, ink: 'ink', logo: null, issue: null, changed: [] };
  const name = change.title.replace(/[^\w .-]+/g, '-').slice(0, 80);
  const [type, body] =
    as === 'html'
      ? (['text/html; charset=utf-8', reportHtml(shown)] as const)
      : (['text/markdown; charset=utf-8', reportMarkdown(shown)] as const);
  return new Response(body, {
    headers: { 'Content-Type': type, 'Content-Disposition': `attachment; filename="${name}.${as}"` },
  });
});
