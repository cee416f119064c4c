import type { Metadata } from 'next';
import { pagePath } from '@/core/address/address';
import { listQueryFrom } from '@/core/lists/address';
import { changeKindName, type PageRef } from '@/core/model/change';
import { MOST_ROUND_PAGES, type Round } from '@/core/model/round';
import type { TakenOpening } from '@/core/model/takenOpening';
import { OPENING_KINDS } from '@/core/openings/kinds';
import { longDay, plural } from '@/core/words/format';
import type { Site } from '@/core/model/site';
import { ask } from '@/app/ask';
import { listRequest } from '@/services/lists/fromQuery';
import { pagesNamed } from '@/services/rounds/begin';
import { SiteContext } from '@/services/site/siteContext';
import type { Db } from '@/store/database';
import { findPage } from '@/store/addresses/pages';
import { InputError } from '@/store/inputError';
import { listChanges } from '@/store/ledger/findChanges';
import { findRound } from '@/store/rounds/rounds';
import { findSheet } from '@/store/traits/sheets';
import { kindChoices } from '@/ui/change/formValues';
import { Screen } from '@/ui/kit/Screen';
import { ViewForm } from '@/ui/kit/view/ViewForm';
import { BeginRound } from '@/ui/rounds/BeginRound';
import { PlanPart } from '@/ui/rounds/PlanPart';
import { routes } from '@/ui/shell/routes';
import { siteFromPath, type SitePageProps } from '../../site';
import { begin } from '../actions';

export const metadata: Metadata = { title: 'Begin a round' };

type Text = string | string[] | undefined;
type Wish = Partial<Record<'pages' | 'kind' | 'days' | 'openings' | 'sheet' | 'list' | 'after' | 'as', Text>>;
type Props = SitePageProps & { searchParams: Promise<Wish> };
const one = (text: Text) => (Array.isArray(text) ? text[0] : text) ?? '';

/** So many of the best openings are offered as a round. */
const OPENINGS_TAKEN = 20;

/** What a new round is begun from: pages, the openings they are taken on for, and the round it goes on from. */
type Given = {
  readonly lines: readonly string[];
  readonly kind: string;
  readonly openings: Readonly<Record<string, TakenOpening>>;
  readonly before: Round | null;
};

/** Begins a round: pages, what they could show, how the halves come about. */
export default async function NewRoundPage({ params, searchParams }: Props) {
  const { db, site } = await siteFromPath((await params).siteId, 'edit');
  const wish = await searchParams;
  const { lines, kind, openings, before } = await givenBy(db, site, wish);
  const days = /^\d{1,3}$/.test(one(wish.days))
    ? Math.min(364, Math.max(1, Number(one(wish.days))))
    : site.windowDays;
  const { pages, problems } = namedIn(db, site, lines);
  const plan =
    pages.length === 0
      ? null
      : await ask('roundPlan', { siteId: site.id, wish: { pages, effect: null, windowDays: days } });
  const kinds = kindChoices(listChanges(db, site.id).map((change) => change.kind));
  return (
    <Screen
      title="Begin a round"
      lead={
        before
          ? `After “${before.name}” of ${longDay(before.day)}, whose figures stand beside those of this one.`
          : 'Choose the pages, see what they could show, and draw lots for the half that goes first.'
      }
    >
      <ViewForm
        action={routes.newRound(site.id)}
        keep={{ ...(before && { after: String(before.id) }), openings: one(wish.openings) }}
        fields={[
          {
            type: 'lines',
            name: 'pages',
            label: 'Pages, one a line',
            rows: 8,
            placeholder: '/guides/winter-feeding/\n/guides/mouse-guards/',
          },
          {
            type: 'choice',
            name: 'kind',
            label: 'Kind of change',
            options: kinds.map(({ value, name }) => [value, name] as const),
            className: 'w-full',
          },
          {
            type: 'number',
            name: 'days',
            label: 'Days to read',
            min: 7,
            max: 364,
            className: 'w-full',
          },
        ]}
        shown={{ pages: lines.join('\n'), kind, days: String(days) }}
        submit="See what they could show"
        className="mb-5"
        body="grid max-w-5xl gap-3 md:grid-cols-[1fr_14rem] md:[&>:first-child]:row-span-3 content-start"
      />
      {problems.length > 0 && (
        <div role="alert" className="mb-4 max-w-4xl border-l-3 border-(--band) pl-2">
          {plural(problems.length, 'line')} {problems.length === 1 ? 'names' : 'name'} no page of this site
          and {problems.length === 1 ? 'is' : 'are'} passed over: {problems.slice(0, 5).join(', ')}
          {problems.length > 5 && ' and others'}.
        </div>
      )}
      {plan && (
        <>
          <PlanPart siteId={site.id} plan={plan} all={pages.length} kind={kind} />
          <BeginRound
            key={pages.map(({ id }) => id).join(' ')}
            siteId={site.id}
            pages={pages
              .filter(({ id }) => !plan.leftOut.some(({ page, taken }) => taken && page.id === id))
              .map(({ address }) => pagePath(address))}
            kind={kind}
            kindName={changeKindName(kind)}
            windowDays={days}
            settlingDays={site.settlingDays}
            openings={openings}
            followsId={before?.id ?? null}
            suggested={before ? `${before.name}, again` : ''}
            begin={begin}
          />
        </>
      )}
    </Screen>
  );
}

/** What the address names: pasted pages, the best openings of a kind, a sheet, or a round before. */
async function givenBy(db: Db, site: Site, wish: Wish): Promise<Given> {
  const pasted = one(wish.pages)
    .slice(0, 200_000)
    .split(/\r\n|\r|\n/)
    .map((line) => line.split('\t')[0]!.trim())
    .filter((line) => line !== '');
  const after = /^\d{1,15}$/.test(one(wish.after)) ? findRound(db, Number(one(wish.after))) : null;
  const before = after?.siteId === site.id ? after : null;
  const kind = one(wish.kind) || before?.kind || 'title-rewrite';
  const found = await openingsOf(site, one(wish.openings));
  const lines =
    pasted.length > 0
      ? pasted
      : before
        ? await pagesAfter(before, one(wish.as) === 'unmoved')
        : one(wish.sheet) !== ''
          ? pagesOfSheet(db, site, one(wish.sheet))
          : one(wish.list) !== ''
            ? await pagesOfList(db, site, one(wish.list))
            : Object.keys(found);
  return {
    ...{ lines: [...new Set(lines)].slice(0, MOST_ROUND_PAGES), kind, before },
    openings: Object.fromEntries(Object.entries(found).filter(([path]) => lines.includes(path))),
  };
}

async function openingsOf(site: Site, wished: string): Promise<Record<string, TakenOpening>> {
  const kind = OPENING_KINDS.find((known) => known === wished);
  if (!kind) return {};
  const part = await ask('openings', {
    siteId: site.id,
    wish: { span: null, kind, pageId: null, from: 0, limit: 3 * OPENINGS_TAKEN },
  });
  const taken: Record<string, TakenOpening> = {};
  for (const { page, gain, key, busy } of part?.openings ?? []) {
    if (!page || !gain || busy || Object.keys(taken).length === OPENINGS_TAKEN) continue;
    taken[pagePath(page.address)] ??= { key, ...gain };
  }
  return taken;
}

/** The pages of a round: all of them, or those that did not plainly rise in their turn. */
async function pagesAfter(round: Round, unmoved: boolean): Promise<string[]> {
  const all = round.pages.map(({ page }) => pagePath(page.address));
  if (!unmoved) return all;
  const seen = await ask('roundReading', { siteId: round.siteId, roundId: round.id, asOf: null });
  const lifted = new Set(
    [seen?.first, seen?.second].flatMap((turn) =>
      turn
        ? turn.pages.flatMap(({ page, changed, effects }) =>
            changed && effects[turn.judged]?.mark === 'lifted' ? [pagePath(page.address)] : [],
          )
        : [],
    ),
  );
  return all.filter((path) => !lifted.has(path));
}

function pagesOfSheet(db: Db, site: Site, text: string): string[] {
  const found = /^\d{1,15}$/.test(text) ? findSheet(db, Number(text)) : null;
  const ids = found?.sheet.siteId === site.id ? found.sheet.pageIds : [];
  return ids.flatMap((id) => {
    const page = findPage(db, site.id, id);
    return page ? [pagePath(page.address)] : [];
  });
}

/** The pages that a list finds; `query` is that of its address. */
async function pagesOfList(db: Db, site: Site, query: string): Promise<string[]> {
  const parameters = Object.fromEntries(new URLSearchParams(query));
  const wish = listRequest(new SiteContext(db, site), 'pages', listQueryFrom(parameters, 'pages'));
  if (!wish || typeof wish === 'string') return [];
  const ids = await ask('found', { siteId: site.id, wish });
  return ids.slice(0, MOST_ROUND_PAGES).flatMap((id) => {
    const page = findPage(db, site.id, id);
    return page ? [pagePath(page.address)] : [];
  });
}

function namedIn(db: Db, site: Site, lines: readonly string[]): { pages: PageRef[]; problems: string[] } {
  const pages = new Map<number, PageRef>();
  const problems: string[] = [];
  for (const line of lines) {
    try {
      for (const { page } of pagesNamed(db, site, [line])) pages.set(page.id, page);
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      problems.push(line);
    }
  }
  return { pages: [...pages.values()], problems };
}
