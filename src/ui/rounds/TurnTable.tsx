import { spanLength, type Span } from '@/core/calendar/span';
import { HELD_WITHIN } from '@/core/effect/verdict';
import { markOfRound, type HalfFigures, type TurnReading } from '@/core/rounds/reading';
import { ROUND_MEASURES, type RoundMeasure, MEASURE_DESCRIPTIONS } from '@/core/measures/registry';
import type { RoundEffect } from '@/core/rounds/effect';
import { aloneText } from '@/core/rounds/roundSentence';
import { ABSENT, count, metricValue, netPercent } from '@/core/words/format';
import { VERDICT_INK, VerdictShape } from '../kit/VerdictMark';
import { FiguresTable } from '../kit/table/FiguresTable';
import { RangeBar } from '../reading/RangeBar';

const UNDER: Readonly<Record<RoundMeasure, string>> = {
  appeal: 'at the same searches and positions',
  clicks: 'a day',
  showings: 'impressions a day',
  rank: 'search by search',
};

const METRIC_OF = { appeal: 'appeal', clicks: 'clicks', showings: 'impressions', rank: 'position' } as const;

/** Before and after of a half in a measure; counts as a mean a day, since a reading under way has fewer days after. */
function movedText(measure: RoundMeasure, { before, after }: HalfFigures, turn: TurnReading): string {
  const name = METRIC_OF[measure];
  const a = (value: number | null, span: Span) =>
    metricValue(
      name,
      value !== null && (name === 'clicks' || name === 'impressions') ? value / spanLength(span) : value,
    );
  return `${a(before[name], turn.before)} → ${a(after[name], turn.read ?? turn.after)}`;
}

/** An effect so that up is better. */
function upright(measure: RoundMeasure, { net, low, high }: RoundEffect) {
  return measure === 'rank' ? { net: -net, low: -high, high: -low } : { net, low, high };
}

/** The difference of the halves in words. */
function differenceText(measure: RoundMeasure, effect: RoundEffect, place: number | null): string {
  if (measure !== 'rank') return netPercent(Math.exp(effect.net));
  if (place === null) return ABSENT;
  const places = place * (Math.exp(-effect.net) - 1);
  const text = Math.abs(places).toFixed(1);
  return text === '0.0' ? 'level' : `${text} ${places > 0 ? 'up' : 'down'}`;
}

const [LEAST_SCALE, MOST_SCALE] = [Math.log(1.25), Math.log(2.2)];

/** What the halves did, measure by measure, and how often chance alone would bring as much. */
export function TurnTable({ turn }: { turn: TurnReading }) {
  const found = ROUND_MEASURES.map((measure) => {
    const effect = turn.effects[measure];
    return {
      ...{ measure, effect, mark: markOfRound(measure, effect) },
      range: effect && upright(measure, effect),
    };
  });
  const reach = Math.max(
    0,
    ...found.flatMap(({ range }) =>
      range && Number.isFinite(range.low) && Number.isFinite(range.high)
        ? [Math.abs(range.low), Math.abs(range.high)]
        : [],
    ),
  );
  const most = Math.min(MOST_SCALE, Math.max(LEAST_SCALE, reach * 1.05));
  const bySite = found.some(({ effect }) => effect !== null && effect.waiting < 1);
  const [own, other] = turn.half === 'first' ? ['first half', 'waiting half'] : ['second half', 'first half'];
  return (
    <>
      <FiguresTable
        label="The measures"
        className="tight text-[0.85rem] [&_:is(th,td)]:px-[0.32rem]"
        rows={found}
        rowKey={({ measure }) => measure}
        columns={[
          {
            id: 'measure',
            hideHead: true,
            cell: ({ measure }) => (
              <>
                <span className={measure === turn.judged ? 'font-bold' : 'font-semibold'}>
                  {MEASURE_DESCRIPTIONS[measure].inExperiments.label}
                </span>
                {UNDER[measure] !== '' && (
                  <span className="muted block text-[0.72rem] font-normal">{UNDER[measure]}</span>
                )}
              </>
            ),
          },
          {
            id: 'own',
            head: <TwoLines upper={own} lower="before → after" />,
            className: 'max-sm:hidden',
            cell: ({ measure }) => movedText(measure, turn.changed, turn),
          },
          turn.waiting && {
            id: 'other',
            head: <TwoLines upper={other} lower="before → after" />,
            className: 'max-sm:hidden',
            cell: ({ measure }) => turn.waiting && movedText(measure, turn.waiting, turn),
          },
          {
            id: 'net',
            head: turn.waiting ? (
              <TwoLines
                upper={`${own.split(' ')[0]} against`}
                lower={`${turn.half === 'first' ? 'waiting' : 'first'}${bySite ? ', site' : ''}`}
              />
            ) : (
              <TwoLines upper="net of" lower="the site" />
            ),
            cell: ({ measure, effect, mark }) =>
              effect ? (
                <span className={`inline-flex items-baseline gap-1 whitespace-nowrap ${VERDICT_INK[mark]}`}>
                  <VerdictShape verdict={mark} />
                  <span className="sr-only">{mark}</span>
                  <b>{differenceText(measure, effect, turn.changed.after.position)}</b>
                </span>
              ) : (
                ABSENT
              ),
          },
          {
            id: 'range, 9 in 10',
            cell: ({ measure, effect, range, mark }) => (
              <>
                {range && <RangeBar range={range} most={most} level={Math.log1p(HELD_WITHIN)} mark={mark} />}
                {effect && <span className="sr-only">{rangeText(measure, effect, turn)}</span>}
              </>
            ),
          },
          {
            id: 'by chance',
            head: <TwoLines upper="by" lower="chance" />,
            cell: ({ effect }) => (effect ? chance(effect.p) : ABSENT),
          },
        ]}
      />
      {found.some(({ effect }) => effect !== null) && (
        <p className="muted mt-1 text-[0.78rem]">
          {turn.waiting
            ? `By chance: how often as much would come of doing nothing, judged by redrawing the halves of the same ${count(turn.pages.length)} pages${bySite ? ' and by how far the site’s other pages usually miss them' : ''}.`
            : 'By chance: how often untouched pages move as much.'}{' '}
          {aloneText(turn)}
        </p>
      )}
    </>
  );
}

function TwoLines({ upper, lower }: { upper: string | undefined; lower: string }) {
  return (
    <>
      {upper}
      <br />
      {lower}
    </>
  );
}

const chance = (p: number) => (p < 0.001 ? '<0.001' : p.toFixed(p < 0.1 ? 3 : 2));

function rangeText(measure: RoundMeasure, effect: RoundEffect, { changed }: TurnReading): string {
  const at = (net: number) => differenceText(measure, { ...effect, net }, changed.after.position);
  return `${at(effect.low)} to ${at(effect.high)}`;
}
