import { changeKindName } from '../../../core/model/change';
import { MONTH_DAYS } from '../../../core/openings/opening';
import { count, metricDifference, metricValue } from '../../../core/words/format';
import { showsPages, showsMoney, cell, columns, type Work, type Said } from '../reportContext';

export function worth(work: Work): Said {
  const { readings, turns, context } = work;
  const each = [
    ...readings.flatMap(({ change, verdict, estimates, metrics, spans }) => {
      const days = spans.after.lastDay - spans.after.firstDay + 1;
      return verdict === 'lifted' || verdict === 'dropped'
        ? [
            {
              name: showsPages(work) ? change.title : changeKindName(change.kind),
              clicks: estimates?.clicks ?? null,
              after: metrics.clicks.after,
              days,
            },
          ]
        : [];
    }),
    ...turns.flatMap(({ round, turn }) =>
      turn.verdict === 'lifted' || turn.verdict === 'dropped'
        ? [
            {
              name: `${round.name}, ${turn.half} half`,
              clicks: turn.effects.clicks,
              after: turn.changed.after.clicks,
              days: turn.read!.lastDay - turn.read!.firstDay + 1,
            },
          ]
        : [],
    ),
  ].flatMap(({ name, clicks, after, days }) => {
    if (!clicks || after === null) return [];
    const a = (log: number) => (after * (1 - Math.exp(-log)) * MONTH_DAYS) / days;
    return [{ name, net: a(clicks.net), low: a(clicks.low), high: a(clicks.high) }];
  });
  if (each.length === 0)
    return { sentences: ['Nothing that was read plainly moved, so nothing is counted.'] };
  const sum = each.reduce((all, { net }) => all + net, 0);
  const off = (to: 'low' | 'high') => Math.sqrt(each.reduce((all, one) => all + (one[to] - one.net) ** 2, 0));
  const [low, high] = [sum - off('low'), sum + off('high')];
  const price = context.site.worthOfClick;
  const money = showsMoney(work)
    ? price === null
      ? ['Nobody said what a click is worth, so it is told in clicks.']
      : [
          `At ${metricValue('appeal', price)} a click that is ${count(sum * price)} a month (${count(low * price)} to ${count(high * price)}), or ${count(12 * sum * price)} a year if it lasted.`,
        ]
    : [];
  return {
    sentences: [
      `What was plainly lifted or dropped comes to ${metricDifference('clicks', sum)} clicks a month, likely between ${count(low)} and ${count(high)}. Counting only what was called counts some luck too.`,
      ...money,
    ],
    tables: [
      {
        title: 'Clicks a month',
        columns: columns(['change'], ['net', true], ['range, nine in ten', true]),
        rows: each.map(({ name, net, low: from, high: to }) => [
          cell(name),
          cell(metricDifference('clicks', net), net),
          cell(`${count(from)} to ${count(to)}`),
        ]),
      },
    ],
  };
}
