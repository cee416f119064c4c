/* Every measure, described once. Lists, labels, formats, models and schemas follow from here. */

import type { Sums } from './accumulator';
import { averagePosition, clickThroughRate } from './totals';

/** How values of a measure are written: `share` in percent, `ratio` around 1, `places` in a ranking. */
export type Unit = 'count' | 'share' | 'ratio' | 'places';

/** A column of daily figures that running sums are kept of. */
export type DailySum =
  'clicks' | 'impressions' | 'positionSum' | 'positionWeight' | 'expected' | 'rankSum' | 'rankWeight';

/** How a component follows from daily sums: `of` over `against`, or a day where that is null. */
export type DailyFigures = {
  readonly of: DailySum;
  readonly against: DailySum | null;
  /** The sum that says how well it is known. */
  readonly counts: DailySum;
};

/** How a measure is modelled by itself. */
type ComponentModel = DailyFigures & {
  readonly type: 'level' | 'rate';
  /** Variance of a group's weekly innovation about the site's, assumed where a site has shown little. */
  readonly groupVariance: number;
  /** What a workbook says of it. */
  readonly about: string;
};

/** What a measure is, and where it is used. */
type MeasureDescription = {
  readonly label: string;
  /** The label within a sentence. */
  readonly inText: string;
  readonly unit: Unit;
  /** What it is, where its name doesn't say it; and what a net effect on it is. */
  readonly about?: string;
  readonly netEffect?: string;
  /**
   * Value of a span, from its totals and expected clicks; null if absent. Only metrics have one:
   * measures in tables of plain figures, which a change may be expected to move.
   */
  readonly value: ((totals: Sums, expectedClicks: number | null) => number | null) | null;
  /** The metric that comes closest; of a metric itself. */
  readonly metric: 'clicks' | 'impressions' | 'ctr' | 'position' | 'appeal';
  /** How it is modelled: as a component, or as components whose logs add up to its own. */
  readonly model: ComponentModel | readonly ('showings' | 'appeal')[];
  /** Variance of what the control misses of pages changed together, assumed where a site has shown little. */
  readonly commonVariance: number;
  /** What is said of a change if it is the measure that moved; null if no verdict goes by it. */
  readonly moved: readonly [up: string, down: string] | null;
  /** The unit of its strip of days; only metrics have one. */
  readonly daily?: string;
  /** What experiments call it, as a heading and in reports; or the measure that they read in its place. */
  readonly inExperiments:
    { readonly label: string; readonly inReports: string } | 'clicks' | 'appeal' | 'showings' | 'rank';
};

/** All measures. Those in tables of plain figures come first, in the order of their columns. */
export const MEASURE_DESCRIPTIONS = {
  clicks: {
    label: 'Clicks',
    inText: 'clicks',
    unit: 'count',
    daily: 'a day',
    value: ({ clicks }) => clicks,
    metric: 'clicks',
    // What a page was shown is known well and moves with other pages, while how often it is chosen
    // is mostly chance and hardly needs a control. So clicks are read as the two together.
    model: ['showings', 'appeal'],
    commonVariance: 0.003,
    moved: ['more clicks', 'fewer clicks'],
    inExperiments: { label: 'Clicks', inReports: 'clicks' },
  },
  impressions: {
    label: 'Impressions',
    inText: 'impressions',
    unit: 'count',
    daily: 'a day',
    value: ({ impressions }) => impressions,
    metric: 'impressions',
    model: {
      type: 'level',
      of: 'impressions',
      against: null,
      counts: 'impressions',
      groupVariance: 0.004,
      about: 'Impressions: the logarithm of those of a day.',
    },
    commonVariance: 0.003,
    moved: null,
    inExperiments: 'showings',
  },
  ctr: {
    label: 'CTR',
    inText: 'CTR',
    unit: 'share',
    daily: 'of each day',
    value: clickThroughRate,
    metric: 'ctr',
    model: {
      type: 'rate',
      of: 'clicks',
      against: 'impressions',
      counts: 'clicks',
      groupVariance: 0.0005,
      about: 'CTR: clicks against impressions.',
    },
    commonVariance: 0.0005,
    moved: null,
    inExperiments: 'appeal',
  },
  position: {
    label: 'Position',
    inText: 'position',
    unit: 'places',
    daily: '1 is best, and up',
    netEffect: 'In places; a gain is positive although the number of the position falls.',
    value: averagePosition,
    metric: 'position',
    model: {
      type: 'level',
      of: 'positionSum',
      against: 'positionWeight',
      counts: 'positionWeight',
      groupVariance: 0.0005,
      about: 'Position: the logarithm of the mean position.',
    },
    commonVariance: 0.0003,
    moved: null,
    inExperiments: 'rank',
  },
  appeal: {
    label: 'Appeal',
    inText: 'appeal',
    unit: 'ratio',
    daily: '1 is as usual',
    about:
      'Clicks over those that the same showings would bring at the usual CTR by position of the site: 1 is as usual.',
    netEffect: 'How much more often chosen at the same searches and positions.',
    value: ({ clicks }, expected) => (expected !== null && expected > 0 ? clicks / expected : null),
    metric: 'appeal',
    model: {
      type: 'rate',
      of: 'clicks',
      against: 'expected',
      counts: 'clicks',
      groupVariance: 0.0005,
      about: 'Appeal: clicks against showings.',
    },
    commonVariance: 0.0005,
    moved: ['chosen more often', 'chosen less often'],
    inExperiments: { label: 'Appeal', inReports: 'chosen (appeal)' },
  },
  // Clicks are showings times appeal.
  showings: {
    label: 'Showings',
    inText: 'showings',
    unit: 'count',
    about: 'Of expected clicks: what was shown, and where.',
    netEffect: 'What was shown and where, by the clicks it would bring at the usual CTR by position.',
    value: null,
    metric: 'impressions',
    model: {
      type: 'level',
      of: 'expected',
      against: null,
      counts: 'impressions',
      groupVariance: 0.004,
      about:
        'Showings: the logarithm of the clicks that the showings of a day would bring at the usual CTR by position.',
    },
    commonVariance: 0.003,
    moved: ['shown more', 'shown less'],
    inExperiments: { label: 'Shown', inReports: 'showings' },
  },
  // It doesn't move when queries enter or leave.
  rank: {
    label: 'Rank',
    inText: 'rank',
    unit: 'places',
    about: 'Of position over the same queries.',
    netEffect: 'In places, search by search, whatever searches came and went.',
    value: null,
    metric: 'position',
    model: {
      type: 'level',
      of: 'rankSum',
      against: 'rankWeight',
      counts: 'rankWeight',
      groupVariance: 0.0005,
      about: 'Rank: the mean logarithm of the positions of the same searches.',
    },
    commonVariance: 0.0003,
    moved: ['standing higher', 'standing lower'],
    inExperiments: { label: 'Position', inReports: 'position' },
  },
} as const satisfies Record<string, MeasureDescription>;

type Descriptions = typeof MEASURE_DESCRIPTIONS;
export type Measure = keyof Descriptions;
/** The measures whose description fits `Part`. */
type MeasuresWith<Part> = { [M in Measure]: Descriptions[M] extends Part ? M : never }[Measure];

/** A measure that is told in places, of which fewer are better. */
export type MeasureInPlaces = MeasuresWith<{ unit: 'places' }>;
/** A measure that tables of plain figures show, and that a change may be expected to move. */
export type Metric = MeasuresWith<{ value: (totals: Sums, expectedClicks: number | null) => unknown }>;
/** A measure that is modelled by itself. */
export type Component = MeasuresWith<{ model: ComponentModel }>;
/** A measure that a verdict can go by. */
export type VerdictMeasure = MeasuresWith<{ moved: readonly string[] }>;
/** A measure that experiments are read by. */
export type RoundMeasure = MeasuresWith<{ inExperiments: object }>;

/** The description of a measure, with what only some have. */
export const descriptionOf = (measure: Measure): MeasureDescription => MEASURE_DESCRIPTIONS[measure];
const measuresIf = (fits: (description: MeasureDescription) => boolean) =>
  MEASURES.filter((measure) => fits(descriptionOf(measure)));

export const MEASURES = Object.keys(MEASURE_DESCRIPTIONS) as readonly Measure[];
export const METRICS = measuresIf(({ value }) => value !== null) as readonly Metric[];
export const COMPONENTS = measuresIf(({ model }) => 'type' in model) as readonly Component[];
export const VERDICT_MEASURES = measuresIf(({ moved }) => moved !== null) as readonly VerdictMeasure[];
/** Appeal comes first: a new title or description, which most experiments try, works through it. */
export const ROUND_MEASURES = measuresIf(({ inExperiments }) => typeof inExperiments === 'object').sort(
  (a, b) => Number(b === 'appeal') - Number(a === 'appeal'),
) as readonly RoundMeasure[];

/** The heading of each measure. */
export const MEASURE_NAMES = byMeasure((measure) => descriptionOf(measure).label);

/** A value for each measure. @example byMeasure((name) => name.length).ctr // 3 */
export function byMeasure<T>(of: (measure: Measure) => T): Record<Measure, T> {
  return Object.fromEntries(MEASURES.map((measure) => [measure, of(measure)])) as Record<Measure, T>;
}

/** A value for each metric. @example byMetric((name) => name.length).ctr // 3 */
export function byMetric<T>(of: (metric: Metric) => T): Record<Metric, T> {
  return Object.fromEntries(METRICS.map((metric) => [metric, of(metric)])) as Record<Metric, T>;
}

/** A value for each component. @example byComponent((name) => name.length).ctr // 3 */
export function byComponent<T>(of: (component: Component) => T): Record<Component, T> {
  return Object.fromEntries(COMPONENTS.map((one) => [one, of(one)])) as Record<Component, T>;
}

/** How a component is modelled. */
export const modelOf = (component: Component): ComponentModel => MEASURE_DESCRIPTIONS[component].model;

/**
 * The components whose logs add up to the log of a measure.
 *
 * @example componentsOf('clicks') // ['showings', 'appeal']
 */
export function componentsOf(measure: Measure): readonly Component[] {
  const { model } = descriptionOf(measure);
  return 'type' in model ? [measure as Component] : model;
}

/** Whether a component is a rate, counted in clicks, and not a level. */
export const isRate = (component: Component): boolean => modelOf(component).type === 'rate';

/**
 * The measure that experiments read in place of a measure.
 *
 * @example roundMeasureOf('position') // "rank"
 */
export function roundMeasureOf(measure: Measure): RoundMeasure {
  const { inExperiments } = MEASURE_DESCRIPTIONS[measure];
  return typeof inExperiments === 'string' ? inExperiments : (measure as RoundMeasure);
}

/** Whether a measure is told in places, of which fewer are better. */
export const isInPlaces = (measure: Measure): measure is MeasureInPlaces =>
  descriptionOf(measure).unit === 'places';

/** The metric that comes closest to a measure. @example metricNearest('rank') // "position" */
export const metricNearest = (measure: Measure): Metric => descriptionOf(measure).metric;

/**
 * The value of a metric over a span.
 *
 * @param totals null if the span has no figures
 * @param expectedClicks the clicks expected of its impressions; null if they aren't known
 */
export function metricOf(metric: Metric, totals: Sums | null, expectedClicks: number | null): number | null {
  return totals && MEASURE_DESCRIPTIONS[metric].value(totals, expectedClicks);
}
