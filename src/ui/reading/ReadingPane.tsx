import { AppLink } from '../kit/AppLink';
import type { ReactNode } from 'react';
import { pagePath } from '@/core/address/address';
import { isoDay, type Day } from '@/core/calendar/day';
import { changeKindName, kindsOf, type Change } from '@/core/model/change';
import { MEASURE_NAMES } from '@/core/measures/registry';
import type { Reading } from '@/core/reading/readingModel';
import { expectedText, outcomeOf, outcomeText } from '@/core/reading/outcome';
import { plainSentence, readingSentence } from '@/core/reading/readingSentence';
import { longDay, mediumDay, metricDifference, plural, shortDay } from '@/core/words/format';
import { Pieces } from '../kit/Pieces';
import { routes } from '../shell/routes';
import { DayFiguresTable } from './DayFiguresTable';
import { Doubts } from './Doubts';
import { Part } from './HowTo';
import {
  METRICS_HOW_TO,
  PAGES_HOW_TO,
  PICTURE_HOW_TO,
  QUERIES_HOW_TO,
  WAIT_HOW_TO,
  WHY_HOW_TO,
  DOUBTS_HOW_TO,
} from './howTos';
import { AsOfForm } from './AsOfForm';
import { ChangeTexts } from './ChangeTexts';
import { MetricTable, PagesTable } from './MetricTable';
import { NarrowForm } from './NarrowForm';
import { queryLines } from './queryLines';
import { QueryTable } from './QueryTable';
import { Chain } from '../steps/Chain';
import { SpanForm } from './SpanForm';
import type { StripsData } from './strips/data';
import { ReadingStrips } from './strips/ReadingStrips';
import { WaitTable } from './WaitTable';
import { Why } from './Why';

type Props = {
  reading: Reading;
  strips: StripsData;
  /** Paths of the pages that make up the yardstick. */
  yardstick: readonly string[];
  actions: ReactNode;
  /** The line of its steps, and what is or can be decided of it. */
  steps: ReactNode;
  decision: ReactNode;
  /** The titles on its pages against those in the results; null where it gave none. */
  titles: ReactNode;
  /** The addresses that it moved pages from and to; null where it moved none. */
  moved: ReactNode;
  /** What it said before its edits. */
  history: ReactNode;
  /** Countries that the figures of its pages are divided by, the most shown first. */
  countries: readonly string[];
  /** The newest day with final figures; null where there are none. */
  newest: Day | null;
  /** The changes that follow one another with it among them; empty where it stands alone. */
  chain: readonly Change[];
};

/** A change read before and after: the sentence, the figures, the picture, why, and the doubts. */
export function ReadingPane(props: Props) {
  const { reading, strips, yardstick, actions, steps, decision, titles, moved, history, chain } = props;
  const { countries, newest } = props;
  const { change, reasons, spans, wait, verdict } = reading;
  const sentence = readingSentence(reading);
  const undecided = spans.planned || verdict === 'waiting' || verdict === 'unclear';
  return (
    <article className="max-w-[58rem] px-5 pt-3 pb-8">
      <AppLink href={routes.ledger(change.siteId)} className="inline-link wide:hidden">
        All changes
      </AppLink>
      <Head change={change} actions={actions} />
      <p className="mt-2 font-serif text-[1.25rem] leading-snug">
        <Pieces found={sentence.found} /> <span className="muted">{sentence.limits}</span>
        {wantsFigures(reading) && (
          <>
            {' '}
            <AppLink href={routes.intake(change.siteId)} className="inline-link">
              Bring figures in
            </AppLink>
          </>
        )}
      </p>
      <Then reading={reading} />
      {spans.planned && wait && (
        <Part title="What this page could show" howTo={WAIT_HOW_TO} className="mt-3">
          <WaitTable reading={reading} />
        </Part>
      )}
      <div className="mt-2">
        <MetricTable reading={reading} />
      </div>
      <Facts reading={reading} steps={steps} countries={countries} newest={newest} />

      <div className="mt-1.5">
        <ReadingStrips
          data={strips}
          summary={`${plainSentence(sentence)} Daily impressions, clicks, CTR, position and appeal around the change; the figures stand in the table below.`}
        />
      </div>

      <div className="mt-2 grid gap-x-8 gap-y-4 text-[0.93rem] md:grid-cols-2">
        {(reasons || titles || moved) && (
          <div className="space-y-4">
            {reasons && (
              <Part
                title={`Why clicks moved, ${metricDifference('clicks', reasons.total)}`}
                howTo={WHY_HOW_TO}
              >
                <Why reasons={reasons} />
              </Part>
            )}
            {moved && <Part title="The addresses">{moved}</Part>}
            {titles && <Part title="Title on the page and in the results">{titles}</Part>}
          </div>
        )}
        <Part title="Doubts" howTo={DOUBTS_HOW_TO}>
          <Doubts reading={reading} yardstick={yardstick} />
        </Part>
        {undecided && !spans.planned && wait && (
          <Part title="How long to wait" howTo={WAIT_HOW_TO} className="md:col-span-2">
            <WaitTable reading={reading} />
          </Part>
        )}
        {reading.pages.length > 0 && (
          <Part title="Each page by itself" howTo={PAGES_HOW_TO} className="md:col-span-2">
            <PagesTable reading={reading} pathOf={pageLink(change)} />
          </Part>
        )}
      </div>

      {reasons && (
        <Part title="Queries before and after" howTo={QUERIES_HOW_TO} className="mt-5">
          <QueryTable lines={queryLines(reasons, change.queries)} logHref={logHref(change)} />
        </Part>
      )}
      {chain.length > 0 && (
        <Part title="Its chain of changes" className="mt-5">
          <Chain chain={chain} own={change.id} />
        </Part>
      )}
      {!spans.planned && (
        <Part title="Decision" className="mt-5">
          {decision}
        </Part>
      )}
      <Part
        title={change.oldText || change.newText || change.parts.length > 0 ? 'What was changed' : 'Note'}
        className="mt-5"
      >
        <ChangeTexts change={change} />
      </Part>
      {history}
      <div className="mt-5 grid gap-x-8 gap-y-2 md:grid-cols-2">
        <details>
          <summary className="font-semibold">How the figures are read</summary>
          {METRICS_HOW_TO}
        </details>
        <details>
          <summary className="font-semibold">How the picture is read</summary>
          {PICTURE_HOW_TO}
        </details>
      </div>
      <details className="mt-2">
        <summary className="font-semibold">Figures by day</summary>
        <DayFiguresTable data={strips} title={change.title} />
      </details>
    </article>
  );
}

/** Where a change for one of the queries is logged: on the page where there is one, else on none yet. */
function logHref({ siteId, pages }: Change): string {
  const [page] = pages;
  const on = pages.length === 1 && page ? `page=${encodeURIComponent(pagePath(page.address))}&` : '';
  return `${routes.newChange(siteId)}?${on}query=`;
}

function pageLink(change: Change) {
  const addresses = new Map(change.pages.map((page) => [page.id, page.address]));
  return (id: number) => ({
    path: pagePath(addresses.get(id) ?? ''),
    href: `${routes.change(change.siteId, change.id)}?page=${id}`,
  });
}

/** Kind, day, person and link in one line, the title, and the pages. */
function Head({ change, actions }: { change: Change; actions: ReactNode }) {
  return (
    <>
      <div className="flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1.5">
        <p className="muted text-[0.85rem]">
          {kindsOf(change).map(changeKindName).join(' + ')} · {longDay(change.day)}
          {change.person && <> · logged by {change.person}</>}
          {change.tags.map((tag) => (
            <span key={tag}>
              {' · '}
              <AppLink
                href={`${routes.ledger(change.siteId)}?q=${encodeURIComponent(tag)}`}
                className="inline-link"
              >
                {tag}
              </AppLink>
            </span>
          ))}
          {change.link && (
            <>
              {' · '}
              <a
                href={change.link}
                className="inline-link whitespace-nowrap"
                rel="noreferrer noopener"
                target="_blank"
              >
                {linkName(change.link)}
              </a>
            </>
          )}
        </p>
        <div className="flex flex-wrap gap-x-4 gap-y-1.5 text-[0.85rem]">{actions}</div>
      </div>
      <h2 className="text-[1.5rem] leading-tight">{change.title}</h2>
      <Addresses change={change} />
    </>
  );
}

/** Whether what the reading lacks is figures, and not time. */
function wantsFigures({ verdict, compared, spans, net }: Reading): boolean {
  if (spans.planned) return false;
  if (verdict === 'waiting') return compared === null || spans.completeOn === null;
  return net === null;
}

function linkName(link: string): string {
  const url = new URL(link);
  return url.pathname.split('/').filter(Boolean).at(-1) ?? url.host;
}

function Addresses({ change }: { change: Change }) {
  const [first, ...rest] = change.pages;
  if (!first) return null;
  const address = (page: typeof first) => (
    <AppLink href={routes.page(change.siteId, page.id)} className="inline-link">
      {pagePath(page.address)}
    </AppLink>
  );
  if (rest.length === 0) return <p className="muted text-[0.85rem]">{address(first)}</p>;
  return (
    <details className="muted text-[0.85rem]">
      <summary>{plural(change.pages.length, 'page')}, read together</summary>
      <ul className="mt-1 columns-2 pl-4">
        {change.pages.map((page) => (
          <li key={page.id}>{address(page)}</li>
        ))}
      </ul>
    </details>
  );
}

/** That a reading is one of an earlier day, or that it once said otherwise. */
function Then({ reading: { asOf, saidAtCompletion } }: { reading: Reading }) {
  if (asOf !== null)
    return (
      <p className="mt-1 border-l-2 border-base-content pl-2 text-[0.93rem]">
        As it stood with the figures up to <b>{longDay(asOf)}</b>: nothing after that day is in it, nor in
        what was learned.
      </p>
    );
  if (!saidAtCompletion) return null;
  return (
    <p className="mt-1 border-l-2 border-(--muted) pl-2 text-[0.93rem]">
      When its days were over, with figures up to {longDay(saidAtCompletion.day)}, it said: “
      {saidAtCompletion.sentence}” Figures, the ledger or the way verdicts are told were revised since.
    </p>
  );
}

/** What was written down before the result was known, and the spans, in one line. */
function Facts({
  reading,
  steps,
  countries,
  newest,
}: Pick<Props, 'reading' | 'steps' | 'countries' | 'newest'>) {
  const { change, spans, narrowed } = reading;
  const { expectation } = change;
  const outcome = outcomeOf(reading);
  return (
    <>
      {steps}
      <div className="muted mt-1.5 flex flex-wrap items-baseline gap-x-5 gap-y-1 text-[0.85rem]">
        {spans.planned && (
          <span>
            to be made on <b className="text-base-content">{shortDay(change.day)}</b>
          </span>
        )}
        {expectation && (
          <span>
            expected{' '}
            <b className="text-base-content">
              {MEASURE_NAMES[expectation.metric]} {expectedText(expectation)}
            </b>
            {expectation.reviewDay !== null && (
              <>
                , review <b className="text-base-content">{mediumDay(expectation.reviewDay)}</b>
              </>
            )}
            {outcome && (
              <>
                : <b className="text-base-content">{outcomeText(outcome, expectation)}</b>
              </>
            )}
          </span>
        )}
        <NarrowForm
          narrowed={narrowed}
          queries={offeredQueries(reading)}
          pages={change.pages.map((page) => ({ id: page.id, path: pagePath(page.address) }))}
          countries={countries}
        />
        {newest !== null && (
          <AsOfForm
            key={`as-of/${change.id}/${reading.asOf ?? ''}`}
            asOf={reading.asOf === null ? '' : isoDay(reading.asOf)}
            newest={isoDay(newest)}
          />
        )}
        <SpanForm
          key={`${change.id}/${spans.windowDays}/${spans.settlingDays}`}
          windowDays={spans.windowDays}
          settlingDays={spans.settlingDays}
        />
      </div>
    </>
  );
}

/** Queries offered for narrowing: those that the change names, and those with the most impressions. */
function offeredQueries({ change, reasons }: Reading): string[] {
  const seen = [...(reasons?.queries ?? [])]
    .sort((a, b) => impressionsOf(b) - impressionsOf(a))
    .map(({ query }) => query);
  return [...new Set([...change.queries, ...seen])].slice(0, 50);
}

function impressionsOf({ before, after }: NonNullable<Reading['reasons']>['queries'][number]): number {
  return (before?.impressions ?? 0) + (after?.impressions ?? 0);
}
