import type { Metrics } from '@/core/measures/comparison';
import { isInPlaces, MEASURE_NAMES, METRICS, type Measure, type Metric } from '@/core/measures/registry';
import { HELD_WITHIN } from '@/core/effect/verdict';
import type { Reading } from '@/core/reading/readingModel';
import { netText, rangeText, shortPlaces, VERDICT_NAMES } from '@/core/effect/effectWords';
import {
  ABSENT,
  metricDifference,
  metricValue,
  netPercent,
  percentChange,
  spanText,
} from '@/core/words/format';
import { VERDICT_INK, VerdictShape } from '../kit/VerdictMark';
import { FiguresTable } from '../kit/table/FiguresTable';
import type { Span } from '@/core/calendar/span';
import { RangeBar, type LogRange } from './RangeBar';

type PageReading = Reading['pages'][number];

/** What the difference of a metric is, in its own unit and as a share of before. */
export function differences(metric: Metric, metrics: Metrics): { plain: string; share: string } {
  if (metric === 'position')
    return {
      plain: metrics.position.placesGained === null ? ABSENT : shortPlaces(metrics.position.placesGained),
      share: '',
    };
  const { difference, ratio } = metrics[metric];
  return { plain: metricDifference(metric, difference), share: ratio === null ? '' : percentChange(ratio) };
}

/** The net effect of a metric on the log scale, position turned so that up is better. */
function logRange({ net, metrics }: Reading, measure: Measure): LogRange | null {
  const effect = net?.[measure];
  if (!effect) return null;
  if ('placesGained' in effect) {
    const after = metrics.position.after;
    if (after === null) return null;
    const log = (places: number) => Math.log(Math.max(0.02, 1 + places / after));
    return { net: log(effect.placesGained), low: log(effect.low), high: log(effect.high) };
  }
  return { net: Math.log(effect.ratio), low: Math.log(effect.low), high: Math.log(effect.high) };
}

/** What the untouched pages did, in the unit in which the effect is given. */
function yardstickText({ yardstick, metrics }: Reading, metric: Metric): string {
  if (!yardstick) return ABSENT;
  if (metric === 'position') {
    const { positionRatio } = yardstick;
    const { before } = metrics.position;
    return positionRatio === null || before === null ? ABSENT : shortPlaces(before - before * positionRatio);
  }
  const ratio = yardstick[`${metric}Ratio`];
  return ratio === null ? ABSENT : percentChange(ratio);
}

const isMetric = (measure: Measure): measure is Metric => METRICS.some((metric) => metric === measure);

/** The scale of the intervals reaches over what is drawn, within these bounds, on the log scale. */
const LEAST_SCALE = Math.log(1.25);
const MOST_SCALE = Math.log(2.2);

/** Per metric: before, after, raw difference, what the yardstick did, the net effect, and its range drawn to scale. */
export function MetricTable({ reading }: { reading: Reading }) {
  const { metrics, compared, spans, net, judged, marks } = reading;
  const before = compared?.before ?? spans.before;
  const after = compared?.after ?? spans.after;
  // What moved stands among them, also where it is none of the metrics.
  const measures: readonly Measure[] = isMetric(judged) ? METRICS : [...METRICS, judged];
  const lines = measures.map((measure) => ({
    measure,
    metric: isMetric(measure) ? measure : null,
    range: logRange(reading, measure),
    mark: marks[measure],
  }));
  const reach = Math.max(
    ...lines.map(({ range }) => (range ? Math.max(Math.abs(range.low), Math.abs(range.high)) : 0)),
  );
  const most = Math.min(MOST_SCALE, Math.max(LEAST_SCALE, reach * 1.05));
  return (
    <FiguresTable
      label="The measures before and after, and net of the yardstick"
      className="tight text-[0.88rem] [&_:is(th,td)]:px-[0.28rem] max-sm:text-[0.8rem] max-sm:[&_thead_th]:whitespace-normal max-sm:[&_:is(th,td)]:px-1"
      rows={lines}
      rowKey={({ measure }) => measure}
      rowClass={({ measure }) => (measure === judged ? 'bg-(--marked)' : undefined)}
      columns={[
        {
          id: 'measure',
          hideHead: true,
          cell: ({ measure }) => (
            <>
              {MEASURE_NAMES[measure]}
              {measure === reading.change.expectation?.metric && (
                <span className="muted text-[0.85em] font-normal"> expected</span>
              )}
            </>
          ),
        },
        {
          id: 'before',
          head: <SpanHead name="before" span={before} />,
          cell: ({ metric }) => (metric ? metricValue(metric, metrics[metric].before) : ABSENT),
        },
        {
          id: 'after',
          head: <SpanHead name="after" span={after} />,
          cell: ({ metric }) => (metric ? metricValue(metric, metrics[metric].after) : ABSENT),
        },
        {
          id: 'raw change',
          className: net ? 'max-sm:hidden' : '',
          cell: ({ metric }) => {
            const { plain, share } = metric ? differences(metric, metrics) : { plain: ABSENT, share: '' };
            return (
              <>
                {plain} <span className="muted text-[0.85em]">{share}</span>
              </>
            );
          },
        },
        net && {
          id: 'yardstick',
          className: 'max-sm:hidden',
          cellClass: 'muted',
          cell: ({ metric }) => (metric ? yardstickText(reading, metric) : ABSENT),
        },
        net && {
          id: 'net',
          cell: ({ measure, mark }) => (
            <span className={`font-semibold ${mark ? VERDICT_INK[mark] : ''}`}>
              {mark && <VerdictShape verdict={mark} />}{' '}
              {mark && <span className="sr-only">{VERDICT_NAMES[mark]}</span>}
              {isInPlaces(measure) ? netText(net, measure).replace(/ places? /, ' ') : netText(net, measure)}
            </span>
          ),
        },
        net && {
          id: 'range, 9 in 10',
          cellClass: 'muted max-sm:whitespace-normal!',
          cell: ({ measure }) => rangeText(net, measure),
        },
        net && {
          id: 'picture of the range',
          className: 'max-sm:hidden',
          head: (
            <span aria-hidden className="inline-flex w-[100px] justify-between">
              <span>{netPercent(Math.exp(-most))}</span>
              <span>{netPercent(Math.exp(most))}</span>
            </span>
          ),
          cell: ({ range, mark }) =>
            range &&
            mark && (
              <span aria-hidden>
                <RangeBar range={range} most={most} level={Math.log(1 + HELD_WITHIN)} mark={mark} />
              </span>
            ),
        },
      ]}
    />
  );
}

function SpanHead({ name, span }: { name: string; span: Span }) {
  return (
    <>
      {name}
      <br />
      {spanText(span)}
    </>
  );
}

/** Each page of a change on several, by itself, and how many of them moved. */
export function PagesTable({
  reading,
  pathOf,
}: {
  reading: Reading;
  pathOf: (id: number) => { path: string; href: string };
}) {
  const { pages } = reading;
  const count = (mark: string) => pages.filter((page) => page.mark === mark).length;
  return (
    <>
      <p className="mb-1">
        Of {pages.length} pages with figures, {count('lifted')} lifted and {count('dropped')} dropped by
        themselves, {count('held')} held, and {count('unclear')} cannot be told alone.
      </p>
      <FiguresTable
        label="Each page by itself"
        className="dense"
        csv="pages of the change.csv"
        rows={pages}
        rowKey={({ id }) => id}
        columns={[
          {
            id: 'page',
            cellClass: 'font-normal!',
            value: ({ id }) => pathOf(id).path,
            cell: ({ id }) => (
              <a href={pathOf(id).href} className="inline-link">
                {pathOf(id).path}
              </a>
            ),
          },
          ...(['before', 'after'] as const).map((when) => ({
            id: `clicks ${when}`,
            value: ({ raw }: PageReading) => raw.clicks[when],
            cell: ({ raw }: PageReading) => metricValue('clicks', raw.clicks[when]),
          })),
          { id: 'measure', text: true, value: ({ judged }) => MEASURE_NAMES[judged] },
          {
            id: 'net effect',
            value: ({ net, judged }) => netText(net, judged),
            sorts: false,
          },
          {
            id: 'likely range',
            cellClass: 'muted',
            value: ({ net, judged }) => rangeText(net, judged),
            sorts: false,
          },
          {
            id: 'verdict',
            text: true,
            value: ({ mark }) => mark && VERDICT_NAMES[mark],
            cell: ({ mark }) =>
              mark && (
                <span className={`inline-flex items-baseline gap-1 ${VERDICT_INK[mark]}`}>
                  <VerdictShape verdict={mark} /> {VERDICT_NAMES[mark]}
                </span>
              ),
          },
        ]}
      />
    </>
  );
}
