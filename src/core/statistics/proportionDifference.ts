import { scoreInterval, type Interval } from './proportion';

/** A count of hits among trials. */
export type Proportion = { readonly hits: number; readonly trials: number };

/**
 * Difference of two independent proportions, second less first, with its hybrid score interval.
 * Throws RangeError if either isn’t a proportion.
 *
 * Source: Newcombe, Statistics in Medicine 17 (1998) 873-890, method 10.
 */
export function proportionDifference(
  first: Proportion,
  second: Proportion,
  level: number,
): Interval & { readonly difference: number } {
  const [p1, p2] = [first.hits / first.trials, second.hits / second.trials];
  const one = scoreInterval(first.hits, first.trials, level);
  const two = scoreInterval(second.hits, second.trials, level);
  const difference = p2 - p1;
  return {
    difference,
    low: difference - Math.hypot(p2 - two.low, one.high - p1),
    high: difference + Math.hypot(two.high - p2, p1 - one.low),
  };
}
