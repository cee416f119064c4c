import type { Metadata } from 'next';
import { AppLink } from '@/ui/kit/AppLink';
import { HELD_WITHIN } from '@/core/effect/verdict';
import { changeKindName } from '@/core/model/change';
import type { Round } from '@/core/model/round';
import { plainSentence } from '@/core/reading/readingSentence';
import { markOfRound } from '@/core/rounds/reading';
import { turnSentence } from '@/core/rounds/roundSentence';
import { ROUND_STATE_NAMES, roundState } from '@/core/rounds/state';
import { ABSENT, mediumDay, netPercent, plural } from '@/core/words/format';
import { ask } from '@/app/ask';
import { today } from '@/store/clock';
import { listRounds } from '@/store/rounds/rounds';
import { RowKeys } from '@/ui/kit/RowKeys';
import { Screen } from '@/ui/kit/Screen';
import { VerdictMark } from '@/ui/kit/VerdictMark';
import { RangeBar } from '@/ui/reading/RangeBar';
import { routes } from '@/ui/shell/routes';
import { siteFromPath, type SitePageProps } from '../site';
import { FormLink } from '@/ui/shell/May';
import { MEASURE_DESCRIPTIONS } from '@/core/measures/registry';

export const metadata: Metadata = { title: 'Rounds' };

/** The rounds of a site, the last begun first, with what each brought. */
export default async function RoundsPage({ params }: SitePageProps) {
  const { db, site } = await siteFromPath((await params).siteId);
  const rounds = listRounds(db, site.id);
  const readings = new Map(rounds.length > 0 ? ((await ask('rounds', { siteId: site.id })) ?? []) : []);
  const waiting = rounds.filter(
    (one) => roundState(one, today(site.timeZone), site.provisionalDays) === 'to-decide',
  );
  return (
    <Screen
      title="Rounds"
      lead={
        waiting.length > 0
          ? `${plural(waiting.length, 'round')} ${waiting.length === 1 ? 'is' : 'are'} read and to be decided.`
          : 'Ten or twenty pages taken on together. A random half goes first, the rest wait and show what would have happened anyway.'
      }
      aside={
        <FormLink right="edit" href={routes.newRound(site.id)} className="btn btn-primary btn-sm">
          Begin a round
        </FormLink>
      }
    >
      {rounds.length === 0 ? (
        <p className="max-w-2xl">
          None yet. Choose pages from{' '}
          <AppLink href={routes.openings(site.id)} className="inline-link">
            openings
          </AppLink>{' '}
          or{' '}
          <AppLink href={routes.sheets(site.id)} className="inline-link">
            a sheet
          </AppLink>
          , or paste them when you begin.
        </p>
      ) : (
        <RowKeys>
          <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Rounds">
            <table className="figures text-[0.9rem]">
              <thead>
                <tr>
                  <th scope="col">round</th>
                  <th scope="col" className="text-left!">
                    begun
                  </th>
                  <th scope="col">pages</th>
                  <th scope="col" className="text-left!">
                    where it stands
                  </th>
                  <th scope="col" className="text-left!">
                    first half’s turn
                  </th>
                  <th scope="col">range, 9 in 10</th>
                  <th scope="col" className="text-left!">
                    second half’s turn
                  </th>
                </tr>
              </thead>
              <tbody>
                {rounds.map((round) => (
                  <tr key={round.id} data-row>
                    <th scope="row" className="whitespace-normal!">
                      <AppLink
                        href={routes.round(site.id, round.id)}
                        className="font-semibold text-base-content hover:underline"
                      >
                        {round.name}
                      </AppLink>
                      <span className="muted block font-normal">{changeKindName(round.kind)}</span>
                      <LastSentence round={round} reading={readings.get(round.id) ?? null} />
                    </th>
                    <td className="text-left!">{mediumDay(round.day)}</td>
                    <td>{round.pages.length}</td>
                    <td className="text-left!">
                      {ROUND_STATE_NAMES[roundState(round, today(site.timeZone), site.provisionalDays)]}
                    </td>
                    <TurnCells round={round} turn={readings.get(round.id)?.first ?? null} range />
                    <TurnCells round={round} turn={readings.get(round.id)?.second ?? null} />
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </RowKeys>
      )}
    </Screen>
  );
}

type Turn = Parameters<typeof turnSentence>[1];

/** What the last turn of a round brought, in words. */
function LastSentence({
  round,
  reading,
}: {
  round: Round;
  reading: { readonly first: Turn | null; readonly second: Turn | null } | null;
}) {
  const turn = reading?.second ?? reading?.first;
  if (!turn) return null;
  const { found } = turnSentence(round.kind, turn);
  return (
    <span className="mt-0.5 block max-w-xl font-serif text-[0.95rem] leading-snug font-normal text-base-content">
      {found.map(({ text }) => text).join('')}
    </span>
  );
}

/** What a turn brought, in one or two cells. */
function TurnCells({ round, turn, range = false }: { round: Round; turn: Turn | null; range?: boolean }) {
  const effect = turn?.effects[turn.judged] ?? null;
  if (!turn || !effect) {
    return (
      <>
        <td className="muted text-left!">{turn ? 'too soon' : ABSENT}</td>
        {range && <td />}
      </>
    );
  }
  const up = turn.judged === 'rank' ? { net: -effect.net, low: -effect.high, high: -effect.low } : effect;
  return (
    <>
      <td className="text-left!" title={plainSentence(turnSentence(round.kind, turn))}>
        <VerdictMark verdict={turn.verdict} figure={netPercent(Math.exp(up.net))} />{' '}
        <span className="muted">{MEASURE_DESCRIPTIONS[turn.judged].inExperiments.label.toLowerCase()}</span>
      </td>
      {range && (
        <td>
          <RangeBar
            range={up}
            most={SCALE}
            level={Math.log1p(HELD_WITHIN)}
            mark={markOfRound(turn.judged, effect)}
          />
          <span className="sr-only">
            {netPercent(Math.exp(up.low))} to {netPercent(Math.exp(up.high))}
          </span>
        </td>
      )}
    </>
  );
}
const SCALE = Math.log(1.6);
