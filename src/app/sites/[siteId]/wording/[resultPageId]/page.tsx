import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { AppLink } from '@/ui/kit/AppLink';
import type { ReactNode } from 'react';
import { Soon } from '@/app/Soon';
import { pagePath } from '@/core/address/address';
import { addDays, isoDay } from '@/core/calendar/day';
import { compareDays } from '@/core/wording/days';
import {
  ABOVE_NAMES,
  COMPARED_TEXTS,
  type ComparedText,
  type ResultPage,
  type Worded,
} from '@/core/wording/resultPage';
import { intentSentence, lengthSentence, wordingSentence } from '@/core/wording/wordingSentence';
import { mediumDay, shortDay } from '@/core/words/format';
import { reachResults } from '@/jobs/outsideWorld';
import { ask } from '@/app/ask';
import type { SiteContext } from '@/services/site/siteContext';
import { SiteContext as Context } from '@/services/site/siteContext';
import { ownResult } from '@/services/wording/resultPages';
import type { KindScore } from '@/core/scorebook/kindScore';
import type { WordingSeen } from '@/services/wording/wordings';
import { earlierTexts } from '@/store/evidence/snapshots';
import { draftsOf } from '@/store/wording/drafts';
import { leftOutTerms } from '@/store/wording/leftOut';
import { findResultPage, resultPagesOf } from '@/store/wording/resultPages';
import { rivalsOf } from '@/store/wording/rivals';
import { Screen } from '@/ui/kit/Screen';
import { Part } from '@/ui/reading/HowTo';
import { routes } from '@/ui/shell/routes';
import { SaidText } from '@/ui/subject/SaidText';
import { DataPart } from '@/ui/wording/DataPart';
import { DaysPart } from '@/ui/wording/DaysPart';
import { DraftBench } from '@/ui/wording/DraftBench';
import { DropResults } from '@/ui/wording/DropResults';
import { LookUp } from '@/ui/wording/LookUp';
import { MarksPart } from '@/ui/wording/MarksPart';
import { RivalsPart } from '@/ui/wording/RivalsPart';
import { SharedTerms } from '@/ui/wording/SharedTerms';
import { ShownPart } from '@/ui/wording/ShownPart';
import { StackedTitles } from '@/ui/wording/StackedTitles';
import { siteFromPath } from '../../site';
import {
  beginDraft,
  dropDraft,
  dropResults,
  holdDrafts,
  leaveOut,
  lookAtPages,
  lookUp,
  putBackResults,
  writeDraft,
} from '../actions';

export const metadata: Metadata = { title: 'Wording' };

type Wish = { of?: string; stack?: string; with?: string };
type Props = { params: Promise<{ siteId: string; resultPageId: string }>; searchParams: Promise<Wish> };

/** Days after which the effect of a new title can be told, as a first guess for the review. */
const REVIEW_DAYS = 35;

/** One result page: what the results say, what they share, one's own text against it, and drafts. */
export default async function ResultPageScreen({ params, searchParams }: Props) {
  const { siteId, resultPageId } = await params;
  const { db, site } = await siteFromPath(siteId);
  const found = /^\d{1,15}$/.test(resultPageId) ? findResultPage(db, Number(resultPageId)) : null;
  if (!found || found.siteId !== site.id) notFound();
  const wish = await searchParams;
  const of = COMPARED_TEXTS.find((one) => one === wish.of) ?? 'title';
  const asked = Promise.all([
    ask('wording', { siteId: site.id, wish: { resultPageId: found.id, of, text: null, ownAddress: null } }),
    ask('kindScore', { siteId: site.id, kind: of === 'description' ? 'meta-description' : 'title-rewrite' }),
  ]);
  return (
    <Soon
      asked={asked}
      waiting={
        <Screen title={`“${found.query.text}”`}>
          <p role="status" className="font-serif text-lg">
            Reading what the results say …
          </p>
        </Screen>
      }
    >
      {([seen, brought]) =>
        seen ? <Seen context={new Context(db, site)} {...{ seen, brought, of, wish }} /> : null
      }
    </Soon>
  );
}

const TEXTS: Readonly<Record<ComparedText, string>> = {
  title: 'titles',
  description: 'descriptions',
  h1: 'H1s',
};

type SeenProps = {
  context: SiteContext;
  seen: WordingSeen;
  brought: KindScore | null;
  of: ComparedText;
  wish: Wish;
};

function Seen({ context, seen, brought, of, wish }: SeenProps) {
  const { db, site, today } = context;
  const { page, wording, own, ownRank, onPage, asked, related, data } = seen;
  const days = resultPagesOf(db, site.id, [page.query.id]).filter(({ id }) => id !== page.id);
  const compared =
    days.find(({ id }) => String(id) === wish.with) ?? days.find(({ day }) => day < page.day) ?? null;
  const lined = wish.stack !== 'plain';
  const here = (over: Wish) =>
    `?${new URLSearchParams(Object.entries({ ...wish, ...over }).filter(([, v]) => v))}`;
  // Of H1s there are no drafts: those of the title stay.
  const drafted: Worded = of === 'description' ? of : 'title';
  const shownOwn = ownResult(site, page);
  // Where the page was not looked at, what the results showed of it stands for its text.
  const present = onPage?.[drafted] ?? shownOwn?.[drafted] ?? null;
  const beside: Worded = drafted === 'title' ? 'description' : 'title';
  const path = own ? pagePath(own.address) : null;
  const planned = (kind: string, title: string) => {
    const form = new URLSearchParams({ planned: '1', kind, day: isoDay(today) });
    if (path) form.set('page', path);
    if (title !== '') form.set('title', title);
    return form;
  };
  const takeOn = planned(
    drafted === 'title' ? 'title-rewrite' : 'meta-description',
    `${drafted === 'title' ? 'Title' : 'Description'} for “${page.query.text}”`.slice(0, 200),
  );
  takeOn.set('query', page.query.text);
  if (present) takeOn.set('old', present);
  takeOn.set('metric', 'appeal');
  takeOn.set('amount', '20');
  takeOn.set('review', isoDay(addDays(today, REVIEW_DAYS)));
  const rivals = rivalsOf(db, page.id);
  const source = reachResults(db, site) !== null;
  return (
    <Screen
      title={`“${page.query.text}”`}
      lead={
        <>
          Result page of {mediumDay(page.day)} ·{' '}
          {ownRank === null ? 'no page of yours among them' : `your page at ${ownRank}`}
          {days.length > 0 && ' · other days: '}
          {days.slice(0, 5).map((one, i) => (
            <span key={one.id}>
              {i > 0 && ', '}
              <AppLink href={routes.resultPage(site.id, one.id, here({}))} className="inline-link">
                {shortDay(one.day)}
              </AppLink>
            </span>
          ))}
          {page.above.length > 0 &&
            ` · above them: ${page.above.map(({ kind, own: named }) => `${ABOVE_NAMES[kind]}${named ? ' that names your page' : ''}`).join(', ')}`}
        </>
      }
      aside={
        <div className="flex flex-wrap items-center gap-x-4 text-[0.85rem]">
          <AppLink href={routes.query(site.id, page.query.id)} className="inline-link">
            The query’s screen
          </AppLink>
          {own && (
            <AppLink href={routes.page(site.id, own.id)} className="inline-link">
              {path}
            </AppLink>
          )}
          {source && <LookUp siteId={site.id} query={page.query.text} look={lookUp} />}
          <DropResults siteId={site.id} resultPageId={page.id} drop={dropResults} putBack={putBackResults} />
        </div>
      }
    >
      <p className="mb-3 max-w-5xl font-serif text-[1.2rem] leading-snug">{wordingSentence(wording)}</p>
      <div className="grid max-w-6xl gap-x-8 gap-y-4 lg:grid-cols-[3fr_2.4fr]">
        <section className="min-w-0">
          <div className="flex flex-wrap items-baseline justify-between gap-x-4 border-b">
            <h2 className="text-lg">Their {TEXTS[of]}</h2>
            <span className="flex gap-4 text-[0.85rem]">
              <AppLink href={here({ stack: lined ? 'plain' : '' })} className="inline-link" scroll={false}>
                {lined ? 'show them whole' : 'line them up'}
              </AppLink>
              {COMPARED_TEXTS.filter((other) => other !== of && (other !== 'h1' || rivals.size > 0)).map(
                (other) => (
                  <AppLink
                    key={other}
                    href={here({ of: other === 'title' ? '' : other })}
                    className="inline-link"
                    scroll={false}
                  >
                    {TEXTS[other]}
                  </AppLink>
                ),
              )}
            </span>
          </div>
          <StackedTitles results={wording.results} lined={lined && of === 'title'} />
          {wording.total > wording.results.length && (
            <p className="muted mt-1 text-[0.8rem]">
              The first {wording.results.length} of {wording.total} are compared.
            </p>
          )}
        </section>
        <section className="min-w-0">
          <div className="flex items-baseline justify-between border-b">
            <h2 className="text-lg">What they share</h2>
            <span className="muted text-[0.8rem]">results of {wording.results.length}</span>
          </div>
          <SharedTerms
            siteId={site.id}
            terms={wording.terms}
            of={wording.results.length}
            own={wording.ownText !== null}
            leftOut={leftOutTerms(db, site.id)}
            leaveOut={leaveOut}
          />
        </section>
      </div>
      <div className="mt-4 max-w-6xl">
        {own ? (
          <DraftBench
            key={`${own.id}/${drafted}`}
            siteId={site.id}
            resultPageId={page.id}
            pageId={own.id}
            of={drafted}
            present={present}
            other={onPage?.[beside] ?? shownOwn?.[beside] ?? null}
            drafts={draftsOf(db, [own.id], drafted).map(({ id, text }) => ({ id, text }))}
            takeOn={`${routes.newChange(site.id)}?${takeOn}`}
            begin={beginDraft}
            write={writeDraft}
            drop={dropDraft}
            hold={holdDrafts}
          />
        ) : (
          <p>
            No page of yours was found for this query, so there is nothing to draft for. Say which page is
            meant for it on{' '}
            <AppLink href={routes.query(site.id, page.query.id)} className="inline-link">
              the query’s screen
            </AppLink>
            .
          </p>
        )}
      </div>
      <div className="mt-6 grid max-w-6xl gap-x-10 gap-y-5 lg:grid-cols-2">
        <div className="min-w-0 space-y-5">
          <Part title="What people are after">
            <p>
              {intentSentence(wording.intent)}{' '}
              <AppLink href={routes.query(site.id, page.query.id)} className="inline-link">
                Say otherwise
              </AppLink>
            </p>
          </Part>
          <Part title="Length and marks">
            <p>{lengthSentence(wording)}</p>
            <MarksPart marks={wording.marks} />
          </Part>
          {brought && (
            <Part title="What new titles brought here">
              <p>{brought.sentence}</p>
              <ul className="mt-1 text-[0.9rem]">
                {brought.marks.slice(0, 5).map(({ line, sentence }) => (
                  <li key={line.key}>{sentence}</li>
                ))}
              </ul>
            </Part>
          )}
          {(wording.entities.length > 0 || wording.rare.length > 0) && (
            <Part title="What they name">
              {wording.entities.length > 0 && (
                <p>
                  {wording.entities.slice(0, 14).map(({ text, results, inTitle }, i) => (
                    <span key={`${text}${i}`}>
                      {i > 0 && ', '}
                      {inTitle ? <b>{text}</b> : text}
                      {results > 1 && <span className="muted"> ({results})</span>}
                    </span>
                  ))}
                  . <span className="muted">Bold: your text names it.</span>
                </p>
              )}
              {wording.rare.length > 0 && (
                <p className="mt-1">
                  Said by several of them and by hardly any page of this site:{' '}
                  <b>
                    {wording.rare
                      .slice(0, 6)
                      .map(({ form }) => form)
                      .join(', ')}
                  </b>
                  .
                </p>
              )}
            </Part>
          )}
          <ShownPart
            of={drafted}
            onPage={present}
            shown={shownOwn ? shownOwn[drafted] : null}
            earlier={own ? earlierTexts(db, own.id, drafted) : []}
          />
          {(page.ownQuestions.length > 0 || page.bold.length > 0) && (
            <Part title="What they showed of it">
              {page.ownQuestions.length > 0 && (
                <p>Questions of yours: {page.ownQuestions.map((text) => `“${text}”`).join(', ')}.</p>
              )}
              {page.bold.length > 0 && <p>Printed bold: {page.bold.join(', ')}.</p>}
            </Part>
          )}
          <AskedPart title="Questions people ask" lines={asked} />
          <AskedPart title="Related searches" lines={related} />
        </div>
        <div className="min-w-0 space-y-5">
          {compared && (
            <DaysPart
              siteId={site.id}
              before={compared}
              after={page}
              compared={compareDays(compared, page)}
              isOwn={(address) =>
                ownResult(site, { results: [{ address } as ResultPage['results'][number]] }) !== null
              }
              others={days}
              choose={(id) => here({ with: String(id) })}
            />
          )}
          <Part title="Their pages">
            <RivalsPart
              siteId={site.id}
              resultPageId={page.id}
              look={lookAtPages}
              lines={page.results.slice(0, 10).map(({ rank, address }) => {
                const mine = rank === ownRank;
                const rival = rivals.get(rank);
                return {
                  ...{ rank, host: new URL(address).hostname, own: mine },
                  facts:
                    mine && onPage
                      ? {
                          h1: onPage.h1 ? [onPage.h1] : [],
                          headings: onPage.headings,
                          words: onPage.words,
                          types: [],
                        }
                      : (rival?.facts ?? null),
                  failure: rival?.failure ?? null,
                };
              })}
            />
          </Part>
          {data.length > 0 && (
            <Part title="Structured data it could carry">
              <DataPart
                data={data}
                takeOn={`${routes.newChange(site.id)}?${planned('structured-data', '')}`}
              />
            </Part>
          )}
        </div>
      </div>
    </Screen>
  );
}

function AskedPart({ title, lines }: { title: string; lines: WordingSeen['asked'] }): ReactNode {
  if (lines.length === 0) return null;
  return (
    <Part title={title}>
      <ul>
        {lines.map(({ text, said }) => (
          <li key={text} className="flex items-baseline justify-between gap-4">
            <span>{text}</span>
            <span className="muted shrink-0 text-[0.85rem]">
              <SaidText said={said} />
            </span>
          </li>
        ))}
      </ul>
    </Part>
  );
}
