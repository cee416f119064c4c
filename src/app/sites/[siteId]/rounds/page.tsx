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
import { FiguresTable } from '@/ui/kit/table/FiguresTable';
import { isoDay } from '@/core/calendar/day';

export const metadata: Metadata = { title: 'Rounds' };

/** The rounds of a site, the last begun first, with what each brought. */
export default async function RoundsPage({ params }: SitePageProps) {
  const { db, site } = await siteFromPath((await params).siteId);
  const rounds = listRounds(db, site.id);
  const readings = new Map(rounds.length > 0 ? ((await ask('rounds', { siteId: site.id })) ?? []) : []);
  const lines = rounds.map((round) => ({
    round,
    state: roundState(round, today(site.timeZone), site.provisionalDays),
    first: readings.get(round.id)?.first ?? null,
    second: readings.get(round.id)?.second ?? null,
  }));
  const waiting = lines.filter(({ state }) => state === 'to-decide');
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
          <FiguresTable
            label="Rounds"
            className="text-[0.9rem]"
            csv="rounds.csv"
            rows={lines}
            rowKey={({ round }) => round.id}
            columns={[
              {
                id: 'round',
                cellClass: 'min-w-72 whitespace-normal!',
                value: ({ round }) => round.name,
                cell: ({ round, first, second }) => (
                  <>
                    <AppLink href={routes.round(site.id, round.id)} className="font-semibold hover:underline">
                      {round.name}
                    </AppLink>
                    <span className="muted block font-normal">{changeKindName(round.kind)}</span>
                    <LastSentence round={round} turn={second ?? first} />
                  </>
                ),
              },
              {
                id: 'begun',
                text: true,
                value: ({ round }) => isoDay(round.day),
                cell: ({ round }) => mediumDay(round.day),
              },
              { id: 'pages', value: ({ round }) => round.pages.length },
              { id: 'where it stands', text: true, value: ({ state }) => ROUND_STATE_NAMES[state] },
              {
                id: 'first half’s turn',
                text: true,
                value: ({ first }) => ratioOf(first),
                cell: ({ round, first }) => <TurnCell round={round} turn={first} />,
              },
              { id: 'range, 9 in 10', cell: ({ first }) => <TurnRange turn={first} /> },
              {
                id: 'second half’s turn',
                text: true,
                value: ({ second }) => ratioOf(second),
                cell: ({ round, second }) => <TurnCell round={round} turn={second} />,
              },
            ]}
          />
        </RowKeys>
      )}
    </Screen>
  );
}

type Turn = Parameters<typeof turnSentence>[1];

/** What the last turn of a round brought, in words. */
function LastSentence({ round, turn }: { round: Round; turn: Turn | null }) {
  if (!turn) return null;
  const { found } = turnSentence(round.kind, turn);
  return (
    <span className="mt-0.5 block max-w-xl font-serif text-[0.95rem] leading-snug font-normal text-base-content">
      {found.map(({ text }) => text).join('')}
    </span>
  );
}

/** The effect on the measure by which a turn is judged, so that up is better. */
function uprightEffect(turn: Turn | null) {
  const effect = turn?.effects[turn.judged] ?? null;
  if (!turn || !effect) return null;
  return turn.judged === 'rank' ? { net: -effect.net, low: -effect.high, high: -effect.low } : effect;
}

function ratioOf(turn: Turn | null): number | null {
  const effect = uprightEffect(turn);
  return effect && Math.exp(effect.net);
}

function TurnCell({ round, turn }: { round: Round; turn: Turn | null }) {
  const effect = uprightEffect(turn);
  if (!turn || !effect) return <span className="muted">{turn ? 'too soon' : ABSENT}</span>;
  return (
    <span title={plainSentence(turnSentence(round.kind, turn))}>
      <VerdictMark verdict={turn.verdict} figure={netPercent(Math.exp(effect.net))} />{' '}
      <span className="muted">{MEASURE_DESCRIPTIONS[turn.judged].inExperiments.label.toLowerCase()}</span>
    </span>
  );
}

function TurnRange({ turn }: { turn: Turn | null }) {
  const effect = uprightEffect(turn);
  if (!turn || !effect) return null;
  return (
    <>
      <RangeBar
        range={effect}
        most={SCALE}
        level={Math.log1p(HELD_WITHIN)}
        mark={markOfRound(turn.judged, turn.effects[turn.judged])}
      />
      <span className="sr-only">
        {netPercent(Math.exp(effect.low))} to {netPercent(Math.exp(effect.high))}
      </span>
    </>
  );
}
const SCALE = Math.log(1.6);
