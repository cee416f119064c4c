import { AppLink } from '../kit/AppLink';
import { pagePath } from '@/core/address/address';
import type { OutsideEvent } from '@/core/model/event';
import { pagesOf, type Round } from '@/core/model/round';
import type { TurnReading } from '@/core/rounds/reading';
import { confirmationText, numberWord, turnSentence } from '@/core/rounds/roundSentence';
import type { RoundState } from '@/core/rounds/state';
import { mediumDay, spanText } from '@/core/words/format';
import type { SubjectDays } from '@/core/history/subjectDays';
import type { Span } from '@/core/calendar/span';
import { Pieces } from '../kit/Pieces';
import { ReadingStrips } from '../reading/strips/ReadingStrips';
import { routes } from '../shell/routes';
import { Decide } from './Decide';
import { stepCounts, stepWord } from './halves';
import { PageByPage } from './PageByPage';
import { turnStrips } from './turnStrips';
import { TurnTable } from './TurnTable';

type Seen = {
  readonly first: TurnReading | null;
  readonly second: TurnReading | null;
  readonly pictures: readonly {
    readonly half: 'first' | 'second';
    readonly shown: Span;
    readonly changed: SubjectDays;
    readonly waiting: SubjectDays | null;
  }[];
};
type Props = {
  siteId: number;
  round: Round;
  seen: Seen;
  state: RoundState;
  today: string;
  events: readonly OutsideEvent[];
  decide: Parameters<typeof Decide>[0]['decide'];
};

/** The reading of a round: each turn with its sentence, figures, strips, pages and doubts. */
export function TurnPart({ siteId, round, seen, state, today, events, decide }: Props) {
  const turns = [seen.first, seen.second].flatMap((turn) => turn ?? []);
  if (turns.length === 0) {
    return (
      <p className="max-w-3xl font-serif text-[1.2rem]">
        Nothing of it was made yet, or there are no figures.{' '}
        <AppLink href={routes.round(siteId, round.id, 'work')} className="inline-link">
          Say so under Work
        </AppLink>{' '}
        once the first half is made.
      </p>
    );
  }
  const others = pagesOf(round, 'second').length;
  const confirmation = seen.first && seen.second ? confirmationText(seen.first, seen.second) : '';
  return turns.map((turn) => {
    const sentence = turnSentence(round.kind, turn);
    const picture = seen.pictures.find(({ half }) => half === turn.half);
    const changeId = round.changes[turn.half] ?? null;
    return (
      <section key={turn.half} className="mb-8" aria-label={`The ${turn.half} half’s turn`}>
        {turns.length > 1 && (
          <h2 className="muted font-serif text-[0.95rem] italic">
            {turn.half === 'first' ? 'The first half’s turn' : 'The second half’s turn, as a confirmation'}
          </h2>
        )}
        <p className="max-w-5xl font-serif text-[1.2rem] leading-snug">
          <Pieces found={sentence.found} /> <span className="muted">{sentence.limits}</span>
          {confirmation !== '' && <b className="font-semibold"> {confirmation}</b>}
        </p>
        <div className="mt-2 mb-3 flex flex-wrap items-center gap-x-3 gap-y-2">
          {turn.half === 'first' &&
            (state === 'to-decide' || state === 'to-go-on' || round.decision !== null || turn.early) && (
              <Decide
                siteId={siteId}
                roundId={round.id}
                decision={round.decision}
                goOn={
                  round.draw === 'all' || others === 0 ? null : `Go on with the other ${numberWord(others)}`
                }
                today={today}
                decide={decide}
              />
            )}
          <p className="muted text-[0.87rem]">
            {stepCounts(round, turn.half).map(({ step, done, of, last }, i) => (
              <span key={step}>
                {i > 0 && ' · '}
                {stepWord(step)}{' '}
                <b className="text-base-content">{done === of ? 'all' : `${done} of ${of}`}</b>
                {step === 'made' ? ` ${mediumDay(turn.day)}` : ` by ${mediumDay(last)}`}
              </span>
            ))}
            {turn.read && (
              <>
                {' '}
                · read {spanText(turn.read)}
                {turn.complete ? ', complete' : ', so far'}
              </>
            )}
            {changeId !== null && (
              <>
                {' '}
                ·{' '}
                <AppLink href={routes.change(siteId, changeId)} className="inline-link">
                  in the ledger
                </AppLink>
              </>
            )}
          </p>
          {turn.half === 'first' && state === 'to-go-on' && (
            <AppLink href={routes.round(siteId, round.id, 'work')} className="btn btn-sm">
              To the second half’s work
            </AppLink>
          )}
        </div>
        {turn.read && (
          <div className="grid gap-x-7 gap-y-5 lg:grid-cols-[minmax(0,1fr)_21rem]">
            <div className="min-w-0">
              <TurnTable turn={turn} />
              {picture && (
                <div className="mt-3">
                  <ReadingStrips
                    data={turnStrips(turn, picture, `${turn.half} half`, events, changeId)}
                    summary={`Appeal, clicks, impressions and position of the ${turn.half} half day by day, and dashed those of the other half at the same level before.`}
                  />
                  <p className="muted text-[0.78rem]">
                    Solid: the {turn.half} half. Dashed: the other half, brought to the same level before.
                  </p>
                </div>
              )}
            </div>
            <div className="min-w-0">
              <PageByPage siteId={siteId} turn={turn} />
              {(turn.doubts.length > 0 || turn.leftOut.length > 0) && (
                <div className="mt-3 text-[0.87rem]">
                  <h3 className="font-serif text-[1rem] font-semibold">Doubts</h3>
                  <ul className="space-y-1">
                    {turn.doubts.map((doubt) => (
                      <li key={doubt}>{doubt}</li>
                    ))}
                    {turn.leftOut.map(({ page, reason, changeId: other }) => (
                      <li key={page.id}>
                        <AppLink href={routes.page(siteId, page.id)} className="inline-link">
                          {pagePath(page.address)}
                        </AppLink>{' '}
                        {reason}
                        {other !== null && (
                          <>
                            {' '}
                            (
                            <AppLink href={routes.change(siteId, other)} className="inline-link">
                              the change
                            </AppLink>
                            )
                          </>
                        )}
                        . It is left out.
                      </li>
                    ))}
                  </ul>
                </div>
              )}
            </div>
          </div>
        )}
      </section>
    );
  });
}
