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
import { RangeBar, type LogRange } from './RangeBar';

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
  const ranges = measures.map((measure) => logRange(reading, measure));
  const reach = Math.max(...ranges.map((r) => (r ? Math.max(Math.abs(r.low), Math.abs(r.high)) : 0)));
  const most = Math.min(MOST_SCALE, Math.max(LEAST_SCALE, reach * 1.05));
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="The measures">
      <table className="figures tight text-[0.88rem] [&_:is(th,td)]:px-[0.28rem] max-sm:text-[0.8rem] max-sm:[&_thead_th]:whitespace-normal max-sm:[&_:is(th,td)]:px-1">
        <caption className="sr-only">The measures before and after, and net of the yardstick</caption>
        <thead>
          <tr>
            <th scope="col">
              <span className="sr-only">Measure</span>
            </th>
            <th scope="col">
              before
              <br />
              {spanText(before)}
            </th>
            <th scope="col">
              after
              <br />
              {spanText(after)}
            </th>
            <th scope="col" className={net ? 'max-sm:hidden' : undefined}>
              raw change
            </th>
            {net && (
              <>
                <th scope="col" className="max-sm:hidden">
                  yardstick
                </th>
                <th scope="col">net</th>
                <th scope="col">range, 9 in 10</th>
                <th scope="col" aria-hidden className="align-bottom max-sm:hidden">
                  <span className="inline-flex w-[100px] justify-between">
                    <span>{netPercent(Math.exp(-most))}</span>
                    <span>{netPercent(Math.exp(most))}</span>
                  </span>
                </th>
              </>
            )}
          </tr>
        </thead>
        <tbody>
          {measures.map((metric, i) => {
            const known = isMetric(metric) ? metrics[metric] : null;
            const { plain, share } = isMetric(metric)
              ? differences(metric, metrics)
              : { plain: ABSENT, share: '' };
            const mark = marks[metric];
            const range = ranges[i];
            return (
              <tr key={metric} className={metric === judged ? 'bg-(--marked)' : undefined}>
                <th scope="row">
                  {MEASURE_NAMES[metric]}
                  {metric === reading.change.expectation?.metric && (
                    <span className="muted text-[0.85em] font-normal"> expected</span>
                  )}
                </th>
                <td>{isMetric(metric) ? metricValue(metric, known!.before) : ABSENT}</td>
                <td>{isMetric(metric) ? metricValue(metric, known!.after) : ABSENT}</td>
                <td className={net ? 'max-sm:hidden' : undefined}>
                  {plain} <span className="muted text-[0.85em]">{share}</span>
                </td>
                {net && (
                  <>
                    <td className="muted max-sm:hidden">
                      {isMetric(metric) ? yardstickText(reading, metric) : ABSENT}
                    </td>
                    <td className={`font-semibold ${mark ? VERDICT_INK[mark] : ''}`}>
                      {mark && <VerdictShape verdict={mark} />}{' '}
                      {mark && <span className="sr-only">{VERDICT_NAMES[mark]}</span>}
                      {isInPlaces(metric)
                        ? netText(net, metric).replace(/ places? /, ' ')
                        : netText(net, metric)}
                    </td>
                    <td className="muted max-sm:whitespace-normal!">{rangeText(net, metric)}</td>
                    <td aria-hidden className="max-sm:hidden">
                      {range && mark && (
                        <RangeBar range={range} most={most} level={Math.log(1 + HELD_WITHIN)} mark={mark} />
                      )}
                    </td>
                  </>
                )}
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
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
      <div className="max-h-80 overflow-auto" tabIndex={0} role="region" aria-label="Each page by itself">
        <table className="figures dense">
          <thead>
            <tr>
              <th scope="col">page</th>
              <th scope="col">clicks before</th>
              <th scope="col">clicks after</th>
              <th scope="col" className="text-left!">
                measure
              </th>
              <th scope="col">net effect</th>
              <th scope="col">likely range</th>
              <th scope="col">verdict</th>
            </tr>
          </thead>
          <tbody>
            {pages.map((page) => (
              <tr key={page.id}>
                <th scope="row" className="font-normal!">
                  <a href={pathOf(page.id).href} className="inline-link">
                    {pathOf(page.id).path}
                  </a>
                </th>
                <td>{metricValue('clicks', page.raw.clicks.before)}</td>
                <td>{metricValue('clicks', page.raw.clicks.after)}</td>
                <td className="text-left!">{MEASURE_NAMES[page.judged]}</td>
                <td>{netText(page.net, page.judged)}</td>
                <td className="muted">{rangeText(page.net, page.judged)}</td>
                <td>
                  {page.mark && (
                    <span className={`inline-flex items-baseline gap-1 ${VERDICT_INK[page.mark]}`}>
                      <VerdictShape verdict={page.mark} /> {VERDICT_NAMES[page.mark]}
                    </span>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}
