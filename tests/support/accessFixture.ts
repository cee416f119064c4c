import { listPages } from '@/store/addresses/pages';
import { newChangeSchema } from '@/core/model/change';
import { newEventSchema } from '@/core/model/event';
import { newReportSchema } from '@/core/model/report';
import type { Site } from '@/core/model/site';
import { newRoutineSchema } from '@/core/routines/routine';
import { newResultPageSchema } from '@/core/wording/resultPage';
import type { Db } from '@/store/database';
import { newFeedSchema } from '@/core/model/feed';
import { addFeed } from '@/store/figures/feeds';
import { addImport } from '@/store/figures/imports';
import { addChange } from '@/store/ledger/changes';
import { addEvent } from '@/store/ledger/events';
import { addReport } from '@/store/reports/reports';
import { keepRoutine } from '@/store/routines/routines';
import { keepSheet } from '@/store/traits/sheets';
import { keepResultPage } from '@/store/wording/resultPages';
import { aRound } from './round';
import { day } from './tempDb';

/** One thing of each kind that routes and actions can be about, by kind: their numbers. */
export async function oneOfEach(db: Db, site: Site): Promise<Record<string, number>> {
  const change = { title: 'T', kind: 'other', day: '2026-09-14', pages: ['/a'] };
  const event = { name: 'E', kind: 'other', firstDay: '2026-09-14' };
  const feed = { name: 'F', address: 'https://f.example/', token: '', daily: false, allowPrivate: false };
  const file = { siteId: site.id, fileName: 'a.csv', bytesTotal: 1, takenOn: day('2026-09-14') };
  const changeId = (await addChange(db, site, newChangeSchema.parse(change))).id;
  const page = listPages(db, site.id)[0]!;
  const evidence = {
    ...{ status: 200, finalAddress: `${site.address}/a`, title: 'T', description: null, canonical: null },
    ...{ robots: [], headings: [], structuredData: [], words: 1, text: 'x', links: [], images: 0 },
    ...{ imagesWithoutAlt: [], encoding: 'utf-8', misfits: 0 },
  };
  const inserted = (sql: string, ...values: unknown[]) =>
    Number(db.$client.prepare(sql).run(...values).lastInsertRowid);
  const days = { day: day('2026-09-14'), firstDay: day('2026-09-01'), lastDay: day('2026-09-14') };
  return {
    site: site.id,
    change: changeId,
    event: (await addEvent(db, site.id, newEventSchema.parse(event))).id,
    feed: await addFeed(db, site.id, newFeedSchema.parse(feed)),
    draft: await addImport(db, { ...file, state: 'draft' }),
    import: await addImport(db, { ...file, state: 'queued' }),
    page: page.id,
    query: inserted('INSERT INTO query (site_id, text) VALUES (?, ?)', site.id, 'smoker'),
    snapshot: inserted(
      `INSERT INTO snapshot (site_id, page_id, day, last_day, taken_at, last_seen_at, evidence)
       VALUES (?, ?, 20000, 20000, '2026-01-01T00:00:00Z', '2026-01-01T00:00:00Z', ?)`,
      ...[site.id, page.id, JSON.stringify(evidence)],
    ),
    round: await aRound(db, site, ['/a']),
    report: await addReport(
      db,
      site.id,
      newReportSchema.parse({ title: 'R', from: '2026-09-01', to: '2026-09-30' }),
    ),
    routine: await keepRoutine(
      db,
      site.id,
      null,
      newRoutineSchema.parse({
        ...{ name: 'R', steps: [{ text: 'Look' }], rule: 'FREQ=DAILY', firstDay: '2026-09-14' },
      }),
    ),
    sheet: await keepSheet(db, { siteId: site.id, name: 'S', ...days, pageIds: [page.id] }, []),
    resultPage: await keepResultPage(
      db,
      site.id,
      newResultPageSchema.parse({
        ...{ query: 'smoker', day: '2026-09-14' },
        results: [{ rank: 1, address: 'https://rival.example/', title: 'T' }],
      }),
    ),
  };
}
