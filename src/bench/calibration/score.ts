import type { LogEffect } from '../../core/effect/effect';
import type { Measure } from '../../core/measures/registry';
import type { Estimated, Outcome } from './run';

/** A true effect smaller than this, on the log scale, is not held against anyone. */
const REAL = 0.03;
/** Effects of a fifth and more, in either direction on the log scale. */
export const LARGE = Math.log(1.2);

const share = <T>(among: readonly T[], holds: (one: T) => boolean) =>
  among.length === 0 ? NaN : among.filter(holds).length / among.length;
const untouched = (outcomes: readonly Outcome[], picked: Outcome['picked']) =>
  outcomes.filter((one) => one.kind === 'none' && one.picked === picked);

/** How well intervals and estimates of one measure did over many changes. Shares are from 0 to 1, errors on the log scale. */
export type Score = {
  readonly changes: number;
  /** Intervals that hold the truth. */
  readonly held: number;
  /** Changes that did nothing and were called moved, by how their page was picked. */
  readonly falseAtRandom: number;
  readonly falseAfterDip: number;
  /** Real effects found with the right sign, those of a fifth and more among them, and those called with the wrong one. */
  readonly found: number;
  readonly foundLarge: number;
  readonly wrongSign: number;
  readonly error: number;
  /** Mean error where pages were picked after a dip. */
  readonly dipBias: number;
};

/** Scores one of the two readings over the outcomes of one measure. */
export function score(
  outcomes: readonly Outcome[],
  measure: Measure,
  of: (one: Estimated) => LogEffect,
): Score {
  const known = outcomes.filter((one) => one.measures[measure]);
  const own = (one: Outcome) => one.measures[measure]!;
  const effect = (one: Outcome) => of(own(one));
  const moved = (one: Outcome) => effect(one).low > 0 || effect(one).high < 0;
  const way = (one: Outcome) => (effect(one).low > 0 ? 1 : effect(one).high < 0 ? -1 : 0);
  const real = known.filter((one) => Math.abs(own(one).truth) > REAL);
  const dipped = known.filter((one) => one.picked === 'after a dip');
  const error = (one: Outcome) => effect(one).net - own(one).truth;
  const mean = (among: readonly Outcome[], value: (one: Outcome) => number) =>
    among.reduce((sum, one) => sum + value(one), 0) / among.length;
  const right = (one: Outcome) => way(one) === Math.sign(own(one).truth);
  return {
    changes: known.length,
    held: share(known, (one) => effect(one).low <= own(one).truth && own(one).truth <= effect(one).high),
    falseAtRandom: share(untouched(known, 'at random'), moved),
    falseAfterDip: share(untouched(known, 'after a dip'), moved),
    found: share(real, right),
    foundLarge: share(
      real.filter((one) => Math.abs(own(one).truth) > LARGE),
      right,
    ),
    wrongSign: share(real, (one) => way(one) === -Math.sign(own(one).truth)),
    error: Math.sqrt(mean(known, (one) => error(one) ** 2)),
    dipBias: mean(dipped, error),
  };
}

/** How well the verdict by what moved did, and the daily looks before it. */
export type VerdictScore = {
  readonly falseAtRandom: number;
  readonly falseAfterDip: number;
  readonly foundAtRandom: number;
  readonly foundAfterDip: number;
  readonly foundLarge: number;
  readonly wrongSign: number;
  /** Untouched pages called on any daily look, and of all large effects that were called in the end, those called early. */
  readonly earlyFalse: number;
  readonly earlyShare: number;
  /** The middle day of early calls of large effects. */
  readonly earlyDay: number;
};

export function scoreVerdicts(outcomes: readonly Outcome[]): VerdictScore {
  const truth = (one: Outcome) => one.measures.clicks?.truth ?? 0;
  const large = outcomes.filter((one) => Math.abs(truth(one)) > LARGE);
  const real = outcomes.filter((one) => Math.abs(truth(one)) > REAL);
  const right = (one: Outcome) => one.verdict === Math.sign(truth(one));
  const called = (one: Outcome) => one.verdict !== 0;
  const of = (picked: Outcome['picked']) => large.filter((one) => one.picked === picked);
  const early = large
    .filter((one) => right(one) && one.early?.way === one.verdict)
    .map((one) => one.early!.look)
    .sort((a, b) => a - b);
  return {
    falseAtRandom: share(untouched(outcomes, 'at random'), called),
    falseAfterDip: share(untouched(outcomes, 'after a dip'), called),
    foundAtRandom: share(of('at random'), right),
    foundAfterDip: share(of('after a dip'), right),
    foundLarge: share(large, right),
    wrongSign: share(real, (one) => one.verdict === -Math.sign(truth(one))),
    earlyFalse: share(
      outcomes.filter((one) => one.kind === 'none'),
      (one) => one.early !== null,
    ),
    earlyShare: early.length / Math.max(1, large.filter(right).length),
    earlyDay: early[Math.floor(early.length / 2)] ?? NaN,
  };
}
