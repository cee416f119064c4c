import { AppLink } from '@/ui/kit/AppLink';
import type { ReactNode } from 'react';
import { isoDay } from '@/core/calendar/day';
import { altered, listQueryFrom, type Parameters } from '@/core/lists/address';
import type { ListSubject } from '@/core/lists/columns';
import { READY_FILTERS } from '@/core/lists/ready';
import { count, datedSpan, metricDifference, plural, share } from '@/core/words/format';
import type { ListQuery } from '@/core/lists/wish';
import { ask } from '@/app/ask';
import type { ListAnswer, ListRequest } from '@/services/lists/listRequest';
import { listRequest } from '@/services/lists/fromQuery';
import type { SiteContext } from '@/services/site/siteContext';
import { watchedPages } from '@/store/evidence/snapshots';
import { keptFilters } from '@/store/traits/filters';
import { KeptFilters } from '@/ui/lists/KeptFilters';
import { ListFilter } from '@/ui/lists/ListFilter';
import { ListTable } from '@/ui/lists/ListTable';
import { MOST_ROUND_PAGES } from '@/core/model/round';
import { TotalsTable, type TotalsLine } from '@/ui/lists/TotalsTable';
import { MakeSheet } from '@/ui/lists/MakeSheet';
import { Watching } from '@/ui/lists/Watching';
import { UnderWay } from '@/ui/kit/UnderWay';
import { RowKeys } from '@/ui/kit/RowKeys';
import { Screen } from '@/ui/kit/Screen';
import { routes } from '@/ui/shell/routes';
import { makeSheet } from '../sheets/actions';
import { Soon } from '@/app/Soon';
import { drop, keep, watchFound } from './actions';
import { FormLink } from '@/ui/shell/May';

const NAMES: Readonly<Record<ListSubject, { title: string; one: string; many: string }>> = {
  pages: { title: 'Pages', one: 'page', many: 'pages' },
  queries: { title: 'Queries', one: 'query', many: 'queries' },
  pairs: { title: 'Queries', one: 'query on a page', many: 'queries on pages' },
};

const LEAST_ROUND = 4;

type Props = {
  context: SiteContext;
  subject: ListSubject;
  parameters: Parameters;
  /** What stands above the filters, such as a choice between kinds of lists. */
  above?: ReactNode;
};

/** A list of pages, queries or pairs, as its address asks for it. */
export async function ListScreen({ context, subject, parameters, above }: Props) {
  const { site } = context;
  const { title } = NAMES[subject];
  const query = listQueryFrom(parameters, subject);
  const wish = listRequest(context, subject, query);
  if (typeof wish === 'string') {
    return (
      <Screen title={title}>
        <p className="font-serif text-lg">{wish}</p>
        <AppLink href="?" className="btn btn-primary btn-sm mt-3">
          Show the last 28 days
        </AppLink>
      </Screen>
    );
  }
  const asked = wish ? partOf(site.id, wish) : Promise.resolve(null);
  return (
    <Soon
      asked={asked}
      waiting={
        <Screen title={title}>
          <UnderWay siteId={site.id} what="Adding up figures" />
        </Screen>
      }
    >
      {(answer) => <ListBody {...{ context, subject, parameters, above, query, answer }} />}
    </Soon>
  );
}

/** A list as it was asked for. */
type Asked = { readonly wish: ListRequest; readonly found: ListAnswer; readonly ids: readonly number[] };

async function partOf(siteId: number, wished: ListRequest): Promise<Asked | null> {
  let wish = wished;
  let found = await ask('list', { siteId, wish });
  if (found && found.lines.length === 0 && found.total > 0) {
    // An address may name a part that a filter has since emptied: the last that there is stands for it.
    wish = { ...wish, from: Math.floor((found.total - 1) / wish.limit) * wish.limit };
    found = await ask('list', { siteId, wish });
  }
  const ids = wish.subject === 'pages' ? await ask('found', { siteId, wish }) : [];
  return found && { wish, found, ids };
}

type BodyProps = Props & { query: ListQuery; answer: Asked | null };

function ListBody({ context, subject, parameters, above, query, answer }: BodyProps) {
  const { db, site } = context;
  const { title, one, many } = NAMES[subject];
  if (!answer) {
    return (
      <Screen title={title}>
        <p className="font-serif text-lg">There are no figures yet.</p>
        <AppLink href={routes.intake(site.id)} className="btn btn-primary btn-sm mt-3">
          Bring figures in
        </AppLink>
      </Screen>
    );
  }
  const { wish, found, ids } = answer;
  const { now, was } = found.spans;
  const here = altered(parameters, { cursor: null });
  const wanted = new Set(['q', 'without', 'device', 'brand', 'intent', 'group']);
  const narrowed = Object.entries(parameters).some(
    ([name, value]) => value && (wanted.has(name) || /\.m(in|ax)$/.test(name)),
  );
  const watched = subject === 'pages' ? watchedPages(db, site.id) : new Set<number>();
  const note = totalsNote(subject, found, query.device);
  const onlyWords =
    query.q && !Object.keys(parameters).some((name) => !['q', 'sort', 'cursor'].includes(name));
  return (
    <Screen title={title} lead={lackText(subject, found, query.device) ?? leadOf(found, narrowed, one, many)}>
      {above}
      <KeptFilters
        siteId={site.id}
        subject={subject}
        ready={READY_FILTERS.filter(({ only }) => only.includes(subject)).map((filter) => ({
          name: filter.name,
          href: altered(withoutRanges(parameters), filter.query),
        }))}
        kept={keptFilters(db, site.id, subject)}
        query={narrowed ? here : ''}
        keep={keep}
        drop={drop}
      />
      <ListFilter
        subject={subject}
        parameters={parameters}
        days={{ from: isoDay(now.firstDay), to: isoDay(now.lastDay) }}
        was={was && { from: isoDay(was.firstDay), to: isoDay(was.lastDay) }}
        groups={subject === 'queries' ? [] : found.groups}
      />
      <TotalsTable spans={found.spans} lines={totalLines(subject, found, narrowed, one, many)} />
      {note !== '' && <p className="muted mb-2 text-[0.85rem]">{note}</p>}
      <RowKeys>
        <ListTable
          siteId={site.id}
          subject={subject}
          lines={found.lines}
          sort={wish.sort}
          parameters={parameters}
          compared={was !== null}
        >
          <span className="muted" aria-live="polite">
            {narrowed
              ? `${found.total.toLocaleString('en-GB')} of ${plural(found.all, one, many)}`
              : plural(found.all, one, many)}
          </span>
          <span>
            Save as{' '}
            <a href={routes.saveList(site.id, subject, 'csv', here)} className="inline-link">
              CSV
            </a>{' '}
            <a href={routes.saveList(site.id, subject, 'xlsx', here)} className="inline-link">
              XLSX
            </a>
          </span>
          {subject === 'pages' && onlyWords && found.total > 1 && (
            <AppLink href={routes.changeOfMatching(site.id, query.q!)} className="inline-link">
              Log a change on these {found.total}
            </AppLink>
          )}
          {subject === 'pages' && (
            <MakeSheet siteId={site.id} query={here} found={ids.length} make={makeSheet} />
          )}
          {subject === 'pages' && ids.length >= LEAST_ROUND && ids.length <= MOST_ROUND_PAGES && (
            <FormLink right="edit" href={routes.roundOf(site.id, { list: here })} className="inline-link">
              Take them on as a round
            </FormLink>
          )}
          {subject === 'pages' && (
            <Watching
              siteId={site.id}
              query={here}
              found={ids.length}
              watched={ids.filter((id) => watched.has(id)).length}
              watch={watchFound}
            />
          )}
        </ListTable>
      </RowKeys>
      {found.total === 0 && (
        <p className="mt-4">
          {lackText(subject, found, query.device) ??
            (narrowed ? `No ${one} fits all of this. ` : `No ${one} was shown in these days. `)}{' '}
          {narrowed && (
            <AppLink href={altered({ each: parameters['each'] }, {}) || '?'} className="inline-link">
              Show all
            </AppLink>
          )}
        </p>
      )}
      <Parts total={found.total} from={wish.from} limit={wish.limit} parameters={parameters} />
    </Screen>
  );
}

/** The parameters of an address without the ranges, the order and the place in the list. */
function withoutRanges(parameters: Parameters): Parameters {
  return Object.fromEntries(
    Object.entries(parameters).filter(
      ([name]) => name !== 'sort' && name !== 'cursor' && !/\.m(in|ax)$/.test(name),
    ),
  );
}

/** What is found, everything listed and the whole site, each where it says something of its own. */
function totalLines(
  subject: ListSubject,
  { sums, totals, total, all, lacks }: ListAnswer,
  narrowed: boolean,
  one: string,
  many: string,
): TotalsLine[] {
  const site = { name: 'Whole site', metrics: totals.site };
  const listed = { name: `All ${plural(all, one, many)}`, metrics: totals.listed };
  const found = { name: total === 1 ? `This ${one}` : `These ${plural(total, one, many)}`, metrics: sums };
  if (all === 0 || lacks.queries) return [site];
  return [site, ...(subject === 'pages' ? [] : [listed]), ...(narrowed ? [found] : [])];
}

/** Why the totals of queries are smaller than those of pages, and what is not divided by device. */
function totalsNote(subject: ListSubject, { totals, lacks, has }: ListAnswer, device?: string): string {
  const part = (metric: 'clicks' | 'impressions') => {
    const [listed, site] = [totals.listed[metric].after ?? 0, totals.site[metric].after ?? 0];
    return site > 0 ? share(Math.min(1, listed / site)) : null;
  };
  const [clicks, impressions] = [part('clicks'), part('impressions')];
  const rare =
    subject !== 'pages' && !lacks.queries && clicks !== null && impressions !== null
      ? `Queries cover ${clicks} of the site’s clicks and ${impressions} of its impressions. The rest belongs to rare queries, which search engines withhold. `
      : '';
  const landing =
    subject === 'pages' && device !== undefined && has.landing
      ? 'Sessions, conversions and revenue are for all devices: the imported files do not split them. '
      : '';
  return `${rare}${landing}`;
}

/** What the figures lack for the chosen device; null where nothing is. */
function lackText(subject: ListSubject, { lacks }: ListAnswer, device?: string): string | null {
  if (lacks.device) return `The imported files have no figures by device, so there are none for ${device}.`;
  if (lacks.queries && subject !== 'pages')
    return `The imported files have no queries by device, so there are none for ${device}. Choose all devices to see queries.`;
  return null;
}

function leadOf({ total, sums, spans }: ListAnswer, narrowed: boolean, one: string, many: string): string {
  const { now, was } = spans;
  const beside = (metric: 'clicks' | 'impressions') =>
    was ? ` (${metricDifference(metric, sums[metric].difference)})` : '';
  const figures = `${count(sums.clicks.after ?? 0)} clicks${beside('clicks')} from ${count(sums.impressions.after ?? 0)} impressions${beside('impressions')}`;
  return `${narrowed ? 'These ' : ''}${plural(total, one, many)} brought ${figures} on ${datedSpan(now)}${was ? `, against ${datedSpan(was)}` : ''}.`;
}

type PartsProps = { total: number; from: number; limit: number; parameters: Parameters };

function Parts({ total, from, limit, parameters }: PartsProps) {
  if (total <= limit && from === 0) return null;
  const to = (place: number) => altered(parameters, { cursor: place <= 0 ? null : String(place) }) || '?';
  return (
    <nav aria-label="Parts of the list" className="mt-3 flex items-center gap-4 text-[0.85rem]">
      {from > 0 && (
        <AppLink href={to(from - limit)} className="inline-link">
          Previous {limit}
        </AppLink>
      )}
      <span>
        {total === 0 ? 0 : Math.min(from + 1, total)} to {Math.min(total, from + limit)} of{' '}
        {total.toLocaleString('en-GB')}
      </span>
      {from + limit < total && (
        <AppLink href={to(from + limit)} className="inline-link">
          Next {limit}
        </AppLink>
      )}
    </nav>
  );
}
