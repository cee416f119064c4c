import { operation } from '@/app/api/v1/doorway';
import { routineMarkdown } from '@/core/routines/routine';

/** A routine as Markdown, to be handed on. */
export const GET = operation(
  { summary: 'A routine as a file', on: 'routine', may: 'read', answers: {} },
  ({ request, site, routine }) => {
    const home = `${new URL(request.url).origin}/sites/${site.id}`;
    const name = routine.name.replace(/[^\w .-]+/g, '-').slice(0, 80);
    return new Response(routineMarkdown(routine, home), {
      headers: {
        'Content-Type': 'text/markdown; charset=utf-8',
        'Content-Disposition': `attachment; filename="${name}.md"`,
      },
    });
  },
);
