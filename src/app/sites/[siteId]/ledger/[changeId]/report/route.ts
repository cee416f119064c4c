import { z } from 'zod';
import { operation } from '@/app/api/v1/doorway';
import { Problem } from '@/app/problem';
import { reportHtml } from '@/core/report/html';
import { reportMarkdown } from '@/core/report/markdown';
import type { ShownReport } from '@/core/model/reportContent';
import { ask } from '@/app/ask';

/** A single reading as a report of one page, for a ticket: as HTML, or as Markdown. */
export const GET = operation(
  {
    summary: 'A reading as a report',
    on: 'change',
    may: 'read',
    query: z.object({ as: z.enum(['html', 'md']).default('html') }),
    answers: {},
  },
  async ({ change, query: { as } }) => {
    const content = await ask('readingReport', { siteId: change.siteId, changeId: change.id });
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
  },
);
