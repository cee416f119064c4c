import { answering, Problem } from '@/app/problem';
import { routineMarkdown } from '@/core/routines/routine';
import { findRoutine } from '@/store/routines/routines';
import { siteFromPath } from '../../../site';

type Context = { params: Promise<{ siteId: string; routineId: string }> };

/** A routine as Markdown, to be handed on. */
export const GET = answering(async (request: Request, { params }: Context): Promise<Response> => {
  const { siteId, routineId } = await params;
  const { db, site } = siteFromPath(siteId);
  const routine = /^\d{1,15}$/.test(routineId) ? findRoutine(db, site.id, Number(routineId)) : null;
  if (!routine) throw new Problem(404, `There is no routine ${routineId.slice(0, 40)}.`);
  const home = `${new URL(request.url).origin}/sites/${site.id}`;
  const name = routine.name.replace(/[^\w .-]+/g, '-').slice(0, 80);
  return new Response(routineMarkdown(routine, home), {
    headers: {
      'Content-Type': 'text/markdown; charset=utf-8',
      'Content-Disposition': `attachment; filename="${name}.md"`,
    },
  });
});
