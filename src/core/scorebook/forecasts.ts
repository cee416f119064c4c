/* Forecasts held to account: what was expected of changes against what came. */

import type { Outcome } from '../reading/outcome';

/**
 * Expected and actual effect of a change, as log ratios where up is better; null without an amount
 * or a reading.
 */
export type Forecast = {
  readonly person: string | null;
  readonly kind: string;
  readonly outcome: Outcome;
  readonly expected: number | null;
  readonly came: number | null;
};

/** The forecasts of a person, or of a kind of change, added up. */
export type ForecastScore = {
  readonly key: string;
  readonly forecasts: number;
  readonly met: number;
  readonly notMet: number;
  readonly cannotBeTold: number;
  /** Means over those of which both are known, as log ratios; null where there is none. */
  readonly expected: number | null;
  readonly came: number | null;
};

/** Adds forecasts up by person or kind, those with the most first. Nobody is the empty key. */
export function forecastScores(forecasts: readonly Forecast[], by: 'person' | 'kind'): ForecastScore[] {
  const byKey = new Map<string, Forecast[]>();
  for (const one of forecasts) {
    const key = one[by] ?? '';
    byKey.set(key, [...(byKey.get(key) ?? []), one]);
  }
  return [...byKey]
    .map(([key, list]) => ({ key, ...scoreOf(list) }))
    .sort((a, b) => b.forecasts - a.forecasts || a.key.localeCompare(b.key));
}

function scoreOf(list: readonly Forecast[]): Omit<ForecastScore, 'key'> {
  const count = (outcome: Outcome) => list.filter((one) => one.outcome === outcome).length;
  const both = list.flatMap(({ expected, came }) =>
    expected !== null && came !== null ? [{ expected, came }] : [],
  );
  const mean = (of: 'expected' | 'came') =>
    both.length === 0 ? null : both.reduce((sum, one) => sum + one[of], 0) / both.length;
  return {
    forecasts: list.length,
    ...{ met: count('met'), notMet: count('not-met'), cannotBeTold: count('cannot-be-told') },
    ...{ expected: mean('expected'), came: mean('came') },
  };
}

/** Estimated and actual clicks a month of openings that were acted on and read. */
export type OpeningForecast = {
  readonly estimated: number;
  readonly low: number;
  readonly high: number;
  readonly came: number;
};
/** Those forecasts added up. */
export type OpeningScore = {
  readonly openings: number;
  readonly estimated: number;
  readonly came: number;
  /** How many came within their own range. */
  readonly within: number;
};

/** Sums estimated and actual gains of openings; null if none was acted on and read. */
export function openingScore(list: readonly OpeningForecast[]): OpeningScore | null {
  if (list.length === 0) return null;
  return {
    openings: list.length,
    estimated: list.reduce((sum, one) => sum + one.estimated, 0),
    came: list.reduce((sum, one) => sum + one.came, 0),
    within: list.filter(({ came, low, high }) => came >= low && came <= high).length,
  };
}
