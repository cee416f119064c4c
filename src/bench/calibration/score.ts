import type { Estimate, Outcome } from './run';

/** How well intervals and estimates did over many changes. Shares are from 0 to 1, errors on the log scale. */
export type Score = {
  /** Intervals that hold the truth. */
  readonly held: number;
  /** Changes that did nothing and were called moved, by how their page was picked. */
  readonly falseAtRandom: number;
  readonly falseAfterDip: number;
  /** Real effects found with the right sign, and called moved with the wrong one. */
  readonly found: number;
  readonly wrongSign: number;
  readonly error: number;
  /** Mean error where pages were picked after a dip. */
  readonly dipBias: number;
};

/** A true effect smaller than this, on the log scale, is not held against anyone. */
const REAL = 0.03;

/** Scores one of the two readings over the outcomes of one metric. */
export function score(outcomes: readonly Outcome[], of: (outcome: Outcome) => Estimate): Score {
  const share = (among: readonly Outcome[], holds: (o: Outcome) => boolean) =>
    among.length === 0 ? NaN : among.filter(holds).length / among.length;
  const mean = (among: readonly Outcome[], value: (o: Outcome) => number) =>
    among.reduce((sum, o) => sum + value(o), 0) / among.length;
  const moved = (o: Outcome) => of(o).low > 0 || of(o).high < 0;
  const none = outcomes.filter((o) => o.kind === 'none');
  const real = outcomes.filter((o) => Math.abs(o.truth) > REAL);
  const dipped = outcomes.filter((o) => o.picked === 'after a dip');
  return {
    held: share(outcomes, (o) => of(o).low <= o.truth && o.truth <= of(o).high),
    falseAtRandom: share(
      none.filter((o) => o.picked === 'at random'),
      moved,
    ),
    falseAfterDip: share(
      none.filter((o) => o.picked === 'after a dip'),
      moved,
    ),
    found: share(real, (o) => (o.truth > 0 ? of(o).low > 0 : of(o).high < 0)),
    wrongSign: share(real, (o) => (o.truth > 0 ? of(o).high < 0 : of(o).low > 0)),
    error: Math.sqrt(mean(outcomes, (o) => (of(o).net - o.truth) ** 2)),
    dipBias: mean(dipped, (o) => of(o).net - o.truth),
  };
}
