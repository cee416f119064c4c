import { roundPlanSchema } from '@/core/model/round';
import { ask } from '@/app/ask';
import { pagesNamed } from '@/services/rounds/begin';
import { Problem } from '@/app/problem';
import { toJson } from '@/core/model/json';
import { planJson } from '@/core/rounds/roundPlanJson';
import { answer, operation } from '../../../../doorway';

export const POST = operation(
  {
    summary: 'What pages could show as a round; nothing is stored',
    on: 'site',
    may: 'read',
    body: roundPlanSchema,
    answers: { '200': answer('The plan', planJson) },
  },
  async ({ db, site, body: { pages, effect, windowDays } }) => {
    const named = pagesNamed(db, site, pages).map(({ page }) => page);
    const plan = await ask('roundPlan', { siteId: site.id, wish: { pages: named, effect, windowDays } });
    if (!plan) throw new Problem(404, 'There is no such site.');
    return Response.json(toJson(planJson, plan));
  },
);
