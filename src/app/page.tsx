import { AppLink } from '@/ui/kit/AppLink';
import { redirect } from 'next/navigation';
import { lastSpans } from '@/core/calendar/span';
import type { Site } from '@/core/model/site';
import { count, mediumDay, metricDifference, plural } from '@/core/words/format';
import { desk } from '@/services/desk/desk';
import { SiteContext } from '@/services/site/siteContext';
import { database, type Db } from '@/store/database';
import { siteTotals } from '@/store/figures/days';
import { mayInGeneral } from '@/core/access/rights';
import { sitesOf } from '@/services/access/sites';
import { knownAsker } from './sites/[siteId]/site';
import { RowKeys } from '@/ui/kit/RowKeys';
import { routes } from '@/ui/shell/routes';
import { TallyMark } from '@/ui/shell/TallyMark';
import { FiguresTable } from '@/ui/kit/table/FiguresTable';

export const dynamic = 'force-dynamic';

/** Days over which the clicks of a site are told, against as many before. */
const DAYS = 28;

/** The sites that somebody looks after: what is due, how far the figures reach, what fell. One alone is opened, none asked for. */
export default async function Home() {
  const db = database();
  const asker = await knownAsker();
  const sites = sitesOf(db, asker);
  const [first] = sites;
  if (!first) redirect(mayInGeneral(asker, 'administer') ? routes.newSite() : routes.account());
  if (sites.length === 1) redirect(routes.desk(first.id));
  const lines = sites.map((site) => lineOf(db, site));
  return (
    <main id="main" className="mx-auto max-w-4xl px-5 py-10">
      <p className="mb-6 flex items-center gap-3 font-serif text-xl font-semibold">
        <TallyMark className="h-7 w-8" /> Modest Tally
      </p>
      <h1 className="text-3xl">Your sites</h1>
      <p className="muted mt-1 mb-4">
        {plural(
          lines.reduce((sum, { due }) => sum + due, 0),
          'thing',
        )}{' '}
        due today on {plural(sites.length, 'site')}.
      </p>
      <RowKeys>
        <FiguresTable
          label="Your sites"
          className=""
          rows={lines}
          rowKey={({ site }) => site.id}
          columns={[
            {
              id: 'site',
              value: ({ site }) => site.name,
              cell: ({ site }) => (
                <AppLink href={routes.desk(site.id)} className="inline-link">
                  {site.name}
                </AppLink>
              ),
            },
            { id: 'due today', value: ({ due }) => due },
            { id: 'pages that fell', value: ({ fell }) => fell },
            {
              id: 'clicks, 28 days',
              value: ({ clicks }) => clicks,
              cell: ({ clicks }) => (clicks === null ? '–' : count(clicks)),
            },
            {
              id: 'difference',
              cellClass: 'muted',
              value: differenceOf,
              cell: (line) => metricDifference('clicks', differenceOf(line)),
            },
            {
              id: 'figures to',
              text: true,
              value: ({ lastDay }) => lastDay,
              cell: ({ lastDay }) => (lastDay === null ? 'none yet' : mediumDay(lastDay)),
            },
          ]}
        />
      </RowKeys>
      {mayInGeneral(asker, 'administer') && (
        <p className="mt-5">
          <AppLink href={routes.newSite()} className="inline-link">
            Add a site
          </AppLink>
        </p>
      )}
    </main>
  );
}

function lineOf(db: Db, site: Site) {
  const context = new SiteContext(db, site);
  const due = desk(context, new Map());
  const { lastReadable, coverage } = context;
  const spans = lastReadable === null ? null : lastSpans(lastReadable, DAYS);
  const [before, after] = spans ? siteTotals(db, site.id, [spans.before, spans.after]) : [];
  const clicks = (of: typeof before) => of && [...of.values()].reduce((sum, page) => sum + page.clicks, 0);
  return {
    ...{ site, due: due.length, lastDay: coverage?.lastDay ?? null },
    fell: due.filter(({ kind }) => kind === 'fell-back').length,
    clicks: clicks(after) ?? null,
    before: before && before.size > 0 ? (clicks(before) ?? null) : null,
  };
}

function differenceOf({ clicks, before }: ReturnType<typeof lineOf>): number | null {
  return clicks === null || before === null ? null : clicks - before;
}
