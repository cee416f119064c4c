import { addDays } from '../../../core/calendar/day';
import { overlap, type Span } from '../../../core/calendar/span';
import { Accumulator } from '../../../core/measures/accumulator';
import { averagePosition, clickThroughRate } from '../../../core/measures/totals';
import { changeKindName } from '../../../core/model/change';
import { EVENT_KINDS } from '../../../core/model/event';
import { isMade } from '../../../core/model/steps';
import {
  count,
  datedSpan,
  metricDifference,
  metricValue,
  percentChange,
  plural,
  spanText,
} from '../../../core/words/format';
import { acrossSentence } from '../../../core/reading/across';
import { movedAcross } from '../../events/acrossEvent';
import { subjectDays } from '../../figures/subjectDays';
import { YEAR_DAYS, cell, columns, type Work, type Said, showsPages } from '../reportContext';

function totalsOf({ context: { site }, tools: { engines }, scope }: Work, span: Span): Accumulator {
  const wanted = scope.pageIds && new Set(scope.pageIds);
  const sum = new Accumulator();
  for (const page of engines.figures(site)!.series) {
    if (wanted && !wanted.has(page.id)) continue;
    for (let day = span.firstDay; day <= span.lastDay; day++) {
      const at = day - page.firstDay;
      if (at < 0 || at >= page.clicks.length) continue;
      sum.addSums({
        ...{ clicks: page.clicks[at]!, impressions: page.impressions[at]! },
        ...{ positionSum: page.positionSum[at]!, positionWeight: page.positionWeight[at]! },
      });
    }
  }
  return sum;
}

export function traffic(work: Work): Said {
  const { context, tools, span, scope } = work;
  const figures = tools.engines.figures(context.site)!;
  const shifted = (days: number): Span => ({
    firstDay: addDays(span.firstDay, -days),
    lastDay: addDays(span.lastDay, -days),
  });
  const length = span.lastDay - span.firstDay + 1;
  const now = totalsOf(work, span);
  const compared = [
    { name: 'a year earlier', days: YEAR_DAYS },
    { name: 'the days before', days: length },
  ].flatMap(({ name, days }) => {
    const over = shifted(days);
    return over.firstDay >= figures.firstDay ? [{ name, over, totals: totalsOf(work, over) }] : [];
  });
  const [first] = compared;
  const what = scope.pageIds === null ? 'The site' : 'These pages';
  const brought = `${what} brought ${count(now.clicks)} clicks of ${count(now.impressions)} impressions in the days ${spanText(span)}`;
  const against = first
    ? `, ${percentChange(now.clicks / first.totals.clicks)} against ${first.name}${first.name === 'a year earlier' ? ', which leaves the season out' : ', the season not left out'}.`
    : '; there is no earlier time to hold them against.';
  const row = (
    name: string,
    of: (sum: Accumulator) => number | null,
    metric: 'clicks' | 'impressions' | 'ctr' | 'position',
  ) => [
    cell(name),
    cell(metricValue(metric, of(now)), of(now)),
    ...compared.flatMap(({ totals }) => {
      const [is, was] = [of(now), of(totals)];
      const difference = is === null || was === null ? null : metric === 'position' ? was - is : is - was;
      return [cell(metricValue(metric, was), was), cell(metricDifference(metric, difference), difference)];
    }),
  ];
  const days = subjectDays(context, tools, { pageIds: scope.pageIds, query: null, device: 0, span });
  const events = context.events.filter((event) => !event.hidden && overlap(event, span) !== null);
  return {
    sentences: [brought + against, ...eventSentences(work)],
    tables: [
      {
        title: 'Totals',
        columns: columns(
          ['measure'],
          [spanText(span), true],
          ...compared.flatMap(({ name, over }): [string, boolean][] => [
            [`${name}, ${spanText(over)}`, true],
            ['difference', true],
          ]),
        ),
        rows: [
          row('clicks', ({ clicks }) => clicks, 'clicks'),
          row('impressions', ({ impressions }) => impressions, 'impressions'),
          row('CTR', clickThroughRate, 'ctr'),
          row('position', averagePosition, 'position'),
        ],
      },
    ],
    strips: days && {
      title: 'Day by day',
      shown: span,
      strips: (['clicks', 'impressions', 'position', 'appeal'] as const).map((metric) => ({
        ...{ metric, values: days[metric] },
      })),
      changes: scope.changes
        .filter(isMade)
        .map(({ day, title, kind }) => ({ day, title: showsPages(work) ? title : changeKindName(kind) })),
      events: events.map(({ firstDay, lastDay, name }) => ({ firstDay, lastDay, name })),
    },
  };
}

/** What outside events within the days did, as far as it can be told. */
function eventSentences({ context, tools: { engines }, span }: Work): string[] {
  const events = context.events.filter((event) => !event.hidden && overlap(event, span) !== null);
  return events.map((event) => {
    const named = `${event.name} (${EVENT_KINDS[event.kind].toLowerCase()}, ${datedSpan(event)})`;
    if (event.kind !== 'algorithm-update') return `${named}.`;
    const lines = movedAcross(context, engines, event.id)?.lines;
    if (!lines) return `${named}: too soon to say who moved.`;
    const of = (mark: string) => lines.pages.filter((one) => one.mark === mark).length;
    return `${named}: ${acrossSentence(lines)} Of ${plural(lines.pages.length, 'page')} ${count(of('lifted'))} rose and ${count(of('dropped'))} fell beyond what the others did; about ${count(Math.round(lines.pages.length / 10))} would by chance.`;
  });
}
