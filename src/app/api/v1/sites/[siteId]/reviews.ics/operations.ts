import { pagePath } from '@/core/address/address';
import { MEASURE_NAMES } from '@/core/measures/registry';
import { ask } from '@/app/ask';
import { listChanges } from '@/store/ledger/findChanges';
import { calendarAnswer } from '../../../calendar';
import { calendar, operation } from '../../../doorway';

export const GET = operation(
  {
    summary: 'The review days, and what drops plainly, as a calendar (RFC 5545)',
    on: 'site',
    may: 'read',
    answers: { '200': calendar },
  },
  async ({ db, site, request }) => {
    // What the asker knows this server as, which the address of the request itself does not say.
    const origin = `${new URL(request.url).protocol}//${request.headers.get('host')}`;
    const { host } = new URL(site.address);
    const entries = listChanges(db, site.id).flatMap(({ id, title, pages, expectation }) => {
      const day = expectation?.reviewDay;
      if (!expectation || day == null) return [];
      const where = pages.map((page) => pagePath(page.address)).join(', ');
      return {
        ...{
          id: `change-${id}@${host}`,
          firstDay: day,
          lastDay: day,
          summary: `Review: ${title}`,
          category: null,
        },
        description: `${MEASURE_NAMES[expectation.metric]} on ${where}`,
        url: `${origin}/sites/${site.id}/ledger/${id}`,
      };
    });
    const drops = new Map(await ask('plainDrops', { siteId: site.id }));
    const plain = listChanges(db, site.id).flatMap(({ id, title, pages }) => {
      const day = drops.get(id);
      if (day === undefined) return [];
      const where = pages.map((page) => pagePath(page.address)).join(', ');
      return {
        ...{ id: `drop-${id}@${host}`, firstDay: day, lastDay: day, category: null },
        summary: `Plainly dropping: ${title}`,
        description: `Before its days are over, on ${where}`,
        url: `${origin}/sites/${site.id}/ledger/${id}`,
      };
    });
    return calendarAnswer(`${site.name}: reviews`, 'reviews.ics', [...entries, ...plain]);
  },
);
