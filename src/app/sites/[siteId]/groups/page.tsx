import type { Metadata } from 'next';
import { AppLink } from '@/ui/kit/AppLink';
import { pagePath } from '@/core/address/address';
import { isoDay } from '@/core/calendar/day';
import { listQueryFrom, type Parameters } from '@/core/lists/address';
import type { ListSpans } from '@/core/lists/spans';
import { listSpans, type ListQuery } from '@/core/lists/wish';
import { plural } from '@/core/words/format';
import { ask } from '@/app/ask';
import type { MovingGroup, MovingGroups } from '@/services/figures/movingGroups';
import { SiteContext } from '@/services/site/siteContext';
import { TotalsTable, type TotalsLine } from '@/ui/lists/TotalsTable';
import { DaysForm } from '@/ui/subject/DaysForm';
import { listEvents } from '@/store/ledger/events';
import { GroupPart } from '@/ui/groups/GroupPart';
import { Screen } from '@/ui/kit/Screen';
import { Part } from '@/ui/reading/HowTo';
import { ShiftLines, ShiftsPart } from '@/ui/subject/ShiftsPart';
import { subjectStrips } from '@/ui/subject/strips';
import { SubjectStrips } from '@/ui/subject/SubjectStrips';
import { routes } from '@/ui/shell/routes';
import type { StripsData } from '@/ui/reading/strips/data';
import { siteFromPath, type SitePageProps } from '../site';
import { renameGroup } from './actions';

export const metadata: Metadata = { title: 'Groups' };

type Props = SitePageProps & { searchParams: Promise<Parameters> };

export default async function GroupsPage({ params, searchParams }: Props) {
  const { db, site } = await siteFromPath((await params).siteId);
  const query = listQueryFrom(await searchParams, 'pages');
  const { lastReadable } = new SiteContext(db, site);
  const asked = lastReadable === null ? null : listSpans(query, lastReadable);
  const [found, days, shifts] = await Promise.all([
    ask('groups', { siteId: site.id }),
    ask('days', { siteId: site.id, wish: { pageIds: null, query: null, device: 0, span: null } }),
    ask('shifts', { siteId: site.id, wish: { pageIds: null, query: null } }),
  ]);
  if (!found) {
    return (
      <Screen title="Groups">
        <p className="font-serif text-lg">
          There are no figures yet from which to see which pages move together.
        </p>
        <AppLink href={routes.intake(site.id)} className="btn btn-primary btn-sm mt-3">
          Bring figures in
        </AppLink>
      </Screen>
    );
  }
  const moved = await Promise.all(
    found.groups.map(({ pages }) =>
      ask('shifts', { siteId: site.id, wish: { pageIds: pages.map(({ id }) => id), query: null } }),
    ),
  );
  const totals =
    asked === null || typeof asked === 'string'
      ? []
      : await totalsOf(site.id, asked, [
          { name: 'Whole site', pageIds: null },
          ...found.groups.map(({ name, pages }) => ({ name, pageIds: pages.map(({ id }) => id) })),
        ]);
  const all = listEvents(db, site.id);
  const events = all.filter(({ hidden }) => !hidden);
  return (
    <Screen title="Groups" lead={leadOf(found)}>
      {asked !== null && (
        <DaysForm action={routes.groups(site.id)} days={daysOf(query, asked)} against={query.against} />
      )}
      {typeof asked === 'string' && <p className="mb-2">{asked}</p>}
      {asked !== null && typeof asked !== 'string' && <TotalsTable lines={totals} spans={asked} />}
      {days && (
        <div className="mb-6 grid gap-x-10 gap-y-4 lg:grid-cols-2">
          <Part title="The whole site">
            <SubjectStrips data={subjectStrips(days, [], all)} name="the whole site" />
          </Part>
          <ShiftsPart siteId={site.id} shifts={shifts ?? []} what="the site" whole />
        </div>
      )}
      <div className="grid gap-x-10 gap-y-6 lg:grid-cols-2">
        {found.groups.map((group, i) => (
          <GroupPart
            key={`${group.number}/${group.name}`}
            siteId={site.id}
            name={group.name}
            named={group.named}
            about={aboutOf(group, found.learned)}
            pages={group.pages.map(({ id, address }) => ({ id, path: pagePath(address) }))}
            strips={stripsOf(group, events)}
            rename={renameGroup}
            moved={moved[i] && moved[i].length > 0 ? <ShiftLines siteId={site.id} shifts={moved[i]} /> : null}
          />
        ))}
      </div>
    </Screen>
  );
}

/** The days as the form shows them, also where they make no sense together. */
function daysOf({ from = '', to = '' }: ListQuery, asked: ListSpans | string) {
  if (typeof asked === 'string') return { from, to };
  return { from: isoDay(asked.now.firstDay), to: isoDay(asked.now.lastDay) };
}

type Totalled = { readonly name: string; readonly pageIds: readonly number[] | null };

async function totalsOf(siteId: number, spans: ListSpans, parts: readonly Totalled[]): Promise<TotalsLine[]> {
  const lines = await Promise.all(
    parts.map(async ({ name, pageIds }) => ({
      name,
      metrics: await ask('totals', { siteId, request: { spans, device: 0, pageIds } }),
    })),
  );
  return lines.flatMap(({ name, metrics }) => (metrics ? [{ name, metrics }] : []));
}

function leadOf({ learned, groups }: MovingGroups): string {
  const together = groups.filter(({ number }) => number !== 0 || !learned);
  if (!learned)
    return 'How pages moved says no more about who moves with whom than the parts of the site do, so these are the groups. A page is read against its own group first, then against the site.';
  return `${plural(together.length, 'group')} of pages that rose and fell together, found from their figures and not from their addresses. A page is read against its own group first, then against the site.`;
}

function aboutOf({ number, pages, mostly, words }: MovingGroup, learned: boolean): string {
  const inPart = mostly ? pages.filter(({ address }) => pagePath(address).startsWith(mostly)).length : 0;
  if (number === 0 && learned)
    return `${plural(pages.length, 'page')} that ${pages.length === 1 ? 'moves' : 'move'} with too few others.`;
  const said = [
    mostly && `${inPart} in ${mostly}`,
    words.length > 0 && `shown for searches with “${words.join('” and “')}”`,
  ].filter(Boolean);
  return `${plural(pages.length, 'page')}${said.length > 0 ? `: ${said.join('; ')}` : ''}.`;
}

function stripsOf({ days }: MovingGroup, events: StripsData['events']): StripsData {
  const strip = (metric: 'clicks' | 'impressions' | 'appeal') => ({
    ...{ metric, values: days[metric], before: null, after: null, path: null, mark: null },
  });
  return {
    shown: days.shown,
    ...{ compared: null, planned: null, lastReadable: days.shown.lastDay },
    strips: [strip('clicks'), strip('impressions'), strip('appeal')],
    changes: [],
    events: events
      .filter(({ firstDay, lastDay }) => lastDay >= days.shown.firstDay && firstDay <= days.shown.lastDay)
      .map(({ id, name, firstDay, lastDay }) => ({ id, name, firstDay, lastDay })),
  };
}
