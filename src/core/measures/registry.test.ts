import { metricDifference, metricInText, metricValue } from '../words/format';
import {
  byComponent,
  COMPONENTS,
  componentsOf,
  MEASURE_DESCRIPTIONS,
  MEASURE_NAMES,
  MEASURES,
  metricNearest,
  metricOf,
  METRICS,
  ROUND_MEASURES,
  VERDICT_MEASURES,
} from './registry';

const totals = { days: 28, clicks: 40, impressions: 1000, positionSum: 4500, positionWeight: 900 };

test('the lists of measures are those that tables, models, verdicts and experiments go by', () => {
  expect(METRICS).toEqual(['clicks', 'impressions', 'ctr', 'position', 'appeal']);
  expect(MEASURES).toEqual([...METRICS, 'showings', 'rank']);
  expect([...COMPONENTS].sort()).toEqual(['appeal', 'ctr', 'impressions', 'position', 'rank', 'showings']);
  expect(VERDICT_MEASURES).toEqual(['clicks', 'appeal', 'showings', 'rank']);
  expect(ROUND_MEASURES).toEqual(['appeal', 'clicks', 'showings', 'rank']);
});

test('metrics are computed from the sums of a span, and absent where they cannot be', () => {
  expect(METRICS.map((metric) => metricOf(metric, totals, 50))).toEqual([40, 1000, 0.04, 5, 0.8]);
  expect(metricOf('appeal', totals, null)).toBeNull();
  const nothing = { days: 28, clicks: 0, impressions: 0, positionSum: 0, positionWeight: 0 };
  expect(METRICS.map((metric) => metricOf(metric, nothing, 0))).toEqual([0, 0, null, null, null]);
  expect(METRICS.map((metric) => metricOf(metric, null, null))).toEqual(METRICS.map(() => null));
});

test.each(MEASURES)(
  '%s is made of components, has a metric closest to it, and a name of its own',
  (measure) => {
    for (const component of componentsOf(measure)) expect(componentsOf(component)).toEqual([component]);
    expect(METRICS).toContain(metricNearest(measure));
    expect(MEASURES.filter((other) => MEASURE_NAMES[other] === MEASURE_NAMES[measure])).toEqual([measure]);
    expect(metricInText(measure).toLowerCase()).toBe(MEASURE_NAMES[measure].toLowerCase());
  },
);

test('values and differences are written by the unit', () => {
  const written = (metric: (typeof METRICS)[number], value: number, difference: number) =>
    `${MEASURE_DESCRIPTIONS[metric].label} ${metricValue(metric, value)} (${metricDifference(metric, difference)})`;
  expect(written('clicks', 1234, -56)).toBe('Clicks 1,234 (−56)');
  expect(written('ctr', 0.0312, 0.004)).toBe('CTR 3.12% (+0.40 pt)');
  expect(written('position', 4.25, 0.5)).toBe('Position 4.3 (0.5 places up)');
  expect(written('appeal', 0.8, -0.1)).toBe('Appeal 0.80 (−0.10)');
  expect(metricValue('ctr', null)).toBe('–');
});

test('a value for each component', () => {
  expect(byComponent((name) => name.length).ctr).toBe(3);
});
