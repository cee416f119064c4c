import { addDays, isoDay, type Day } from '../core/calendar/day';
import { newReportSchema } from '../core/model/report';
import type { Site } from '../core/model/site';
import { Engines } from '../services/site/engines';
import { QueryPages } from '../services/figures/queryPages';
import { buildReport } from '../services/report/build';
import { Books } from '../services/scorebook/books';
import { SiteContext } from '../services/site/siteContext';
import type { Db } from '../store/database';
import { addReport, findReport, issueReport } from '../store/reports/reports';

/** When the report of the made-up site was sent, and how many days it is of, before the last day of figures. */
const [SENT_AGO, DAYS] = [30, 91];

/** Makes the report that the people of the made-up site sent last month, as its figures stood then. */
export async function makeReport(db: Db, site: Site, lastDay: Day): Promise<void> {
  const to = addDays(lastDay, -SENT_AGO);
  const id = await addReport(
    db,
    site.id,
    newReportSchema.parse({
      title: 'Search traffic of the yard, late summer to autumn',
      from: isoDay(addDays(to, 1 - DAYS)),
      to: isoDay(to),
      ink: 'petrol',
      words: {
        traffic: { before: 'For the quarterly talk: what the site did, and what we did.', after: '' },
        next: { before: '', after: 'The pages themselves can be seen in the ledger.' },
      },
    }),
  );
  const engines = new Engines(db);
  const tools = { engines, queryPages: new QueryPages(engines), books: new Books(engines) };
  const report = findReport(db, id)!;
  // As it was known then: the days up to the one on which it was sent.
  const content = buildReport(new SiteContext(db, site, to), tools, report);
  if (!content) return;
  const { words, ink, logo } = report;
  await issueReport(db, id, (number) => ({
    ...{ content, words, ink, logo, changed: [] },
    issue: { number, day: addDays(to, 5) },
  }));
  // It was sent on that day, and not when the demo was made.
  db.$client.prepare('UPDATE report_issue SET day = ? WHERE report_id = ?').run(addDays(to, 5), id);
}
