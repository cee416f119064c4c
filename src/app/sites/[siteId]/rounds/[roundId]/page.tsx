import type { Metadata } from 'next';
import { AppLink } from '@/ui/kit/AppLink';
import { notFound } from 'next/navigation';
import { isoDay } from '@/core/calendar/day';
import { changeKindName } from '@/core/model/change';
import { pagesOf, type Half } from '@/core/model/round';
import { effectText, numberWord, rangeWords, thingsOf } from '@/core/rounds/roundSentence';
import { ROUND_STATE_NAMES, roundState } from '@/core/rounds/state';
import { longDay, plural } from '@/core/words/format';
import { ask } from '@/app/ask';
import type { RoundSeen } from '@/services/rounds/seen';
import { today } from '@/store/clock';
import { listEvents } from '@/store/ledger/events';
import { findRound } from '@/store/rounds/rounds';
import { DropRound } from '@/ui/rounds/DropRound';
import { ThenTable } from '@/ui/rounds/ThenTable';
import { TurnPart } from '@/ui/rounds/TurnPart';
import { WorkTable } from '@/ui/rounds/WorkTable';
import { FormLink, IfMay } from '@/ui/shell/May';
import { routes } from '@/ui/shell/routes';
import { siteFromPath } from '../../site';
import { ThingParts } from '../../people/ThingParts';
import { decide, drop, keepWork, made, notMade, putBack, step } from '../actions';

export const metadata: Metadata = { title: 'Round' };

type Props = {
  params: Promise<{ siteId: string; roundId: string }>;
  searchParams: Promise<{ view?: string | string[] }>;
};
const VIEWS = { reading: 'Reading', work: 'Work', then: 'As it was then' } as const;
type View = keyof typeof VIEWS;

/** A round: what its halves brought, the work on its pages, and what was known when it began. */
export default async function RoundPage({ params, searchParams }: Props) {
  const { siteId, roundId } = await params;
  const { db, site } = await siteFromPath(siteId);
  const round = /^\d{1,15}$/.test(roundId) ? findRound(db, Number(roundId)) : null;
  if (round?.siteId !== site.id) notFound();
  const seen = (await ask('round', { siteId: round.siteId, roundId: round.id, asOf: null })) ?? NOTHING;
  const state = roundState(round, today(site.timeZone), site.provisionalDays);
  const wished = (await searchParams).view;
  const view: View =
    wished === 'work' || wished === 'then' || wished === 'reading'
      ? wished
      : seen.first || seen.second
        ? 'reading'
        : 'work';
  const turn: Half = state === 'drawn' || state === 'first' ? 'first' : 'second';
  const leftOut = new Map(
    (seen.second ?? seen.first)?.leftOut.map(({ page, reason }) => [page.id, reason] as const),
  );
  const before = round.followsId === null ? null : findRound(db, round.followsId);
  const lastTime =
    before && (await ask('roundReading', { siteId: before.siteId, roundId: before.id, asOf: null }))?.first;
  const people = [...new Set(round.pages.flatMap(({ person }) => person ?? []))];
  const drawn =
    round.draw === 'halves'
      ? `drawn by lot ${longDay(round.day)} (seed ${round.seed})`
      : round.draw === 'all'
        ? `all at once, begun ${longDay(round.day)}`
        : `halves chosen by hand ${longDay(round.day)}`;
  return (
    <main id="main" className="min-w-0 flex-1 px-5 pt-3 pb-10 wide:h-screen wide:overflow-y-auto wide:px-6">
      <p className="muted text-[0.8rem]">
        <AppLink href={routes.rounds(site.id)} className="inline-link">
          Rounds
        </AppLink>{' '}
        · {changeKindName(round.kind)} · {plural(round.pages.length, 'page')}, {drawn}
        {people.length > 0 && ` · ${people.join(', ')}`} · {ROUND_STATE_NAMES[state]}
      </p>
      <h1 className="text-2xl break-words">{round.name}</h1>
      <nav aria-label="Views of the round" className="mt-1 mb-2 flex flex-wrap gap-x-4 text-[0.9rem]">
        {(Object.keys(VIEWS) as View[]).map((one) => (
          <AppLink
            key={one}
            href={`${routes.round(site.id, round.id)}?view=${one}`}
            aria-current={one === view ? 'page' : undefined}
            className={one === view ? 'border-b-2 border-base-content font-bold' : 'inline-link'}
          >
            {VIEWS[one]}
          </AppLink>
        ))}
        <span className="ml-auto flex flex-wrap gap-x-4">
          {state === 'over' && (
            <IfMay right="edit">
              <AppLink href={routes.roundAfter(site.id, round.id, 'unmoved')} className="inline-link">
                Again with those that did not move
              </AppLink>
              <AppLink href={routes.roundAfter(site.id, round.id, 'same')} className="inline-link">
                Again with the same pages
              </AppLink>
            </IfMay>
          )}
          <IfMay right="edit">
            <DropRound siteId={site.id} roundId={round.id} drop={drop} putBack={putBack} />
          </IfMay>
        </span>
      </nav>
      {before && (
        <p className="mb-2 text-[0.9rem]">
          It goes on from{' '}
          <AppLink href={routes.round(site.id, before.id)} className="inline-link">
            {before.name}
          </AppLink>
          , {longDay(before.day)}
          {lastTime?.effects[lastTime.judged] && (
            <>
              : then {effectText(lastTime.judged, lastTime.effects[lastTime.judged]!)},{' '}
              {rangeWords(lastTime.judged, lastTime.effects[lastTime.judged]!)}
            </>
          )}
          .
        </p>
      )}
      {view === 'reading' && (
        <TurnPart
          siteId={site.id}
          round={round}
          seen={seen}
          state={state}
          today={isoDay(today(site.timeZone))}
          events={listEvents(db, site.id)}
          decide={decide}
        />
      )}
      {view === 'work' && (
        <>
          {state === 'drawn' && (
            <p className="mb-3 max-w-3xl font-serif text-[1.15rem] leading-snug">
              {round.draw === 'all'
                ? `All ${numberWord(round.pages.length)} ${thingsOf(round.kind, round.pages.length)} are to be made.`
                : `The lot says which ${numberWord(pagesOf(round, 'first').length)} go first; leave the other ${numberWord(pagesOf(round, 'second').length)} alone until these are read.`}
            </p>
          )}
          {(round.kind === 'title-rewrite' || round.kind === 'meta-description') && (
            <p className="mb-2 text-[0.9rem]">
              <FormLink right="edit" href={routes.roundDrafts(site.id, round.id)} className="inline-link">
                Draft from a pattern, or paste drafts from a sheet
              </FormLink>
            </p>
          )}
          <WorkTable
            key={turn}
            siteId={site.id}
            roundId={round.id}
            lines={round.pages.map(({ page, half, person, oldText, newText, steps, opening }) => ({
              ...{ page, half, person, oldText, newText, steps, opening },
              leftOut: leftOut.get(page.id) ?? null,
            }))}
            today={isoDay(today(site.timeZone))}
            turn={turn}
            texts={round.kind === 'title-rewrite' || round.kind === 'meta-description'}
            {...{ made, notMade, step, keep: keepWork }}
          />
        </>
      )}
      {view === 'then' && <ThenTable siteId={site.id} round={round} />}
      <ThingParts siteId={site.id} on="round" id={round.id} shared="round" />
    </main>
  );
}

const NOTHING: RoundSeen = { first: null, second: null, pictures: [] };
