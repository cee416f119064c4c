/*
 * Unchanged pages of the site beside the waiting half: how far they can be trusted for an
 * experiment.
 */

/**
 * Prior probability that unchanged pages mislead more than ever before, and the variance of their
 * error then.
 */
const [UNLIKE, UNLIKE_VARIANCE] = [0.03, 0.04];

/**
 * Prior degrees of freedom of the engine’s variances: the number of pages they are worth when an
 * experiment estimates its own scatter. On simulated sites hundreds would be justified
 * (docs/rounds.md); real sites may be modelled less well.
 */
export const PRIOR_FREEDOM = 30;

/** A waiting half: its move net of unchanged pages, and the variance of its own pages. */
export type WaitingHalf = { readonly moved: number; readonly own: number };

/**
 * Variance of the error of unchanged pages for an experiment: `common`, as the past shows it,
 * unless the waiting half moved unlike the past; then so large that this half is almost the only
 * control.
 *
 * Source: Schmidli et al., Biometrics 70 (2014) 1023-1032 (from memory): a mixture with a vague
 * component, which takes over if the two kinds of controls disagree.
 *
 * @example missedVariance({ moved: 0, own: 0.0015 }, 0.0015) // 0.0018
 * @example missedVariance({ moved: 0.3, own: 0.0015 }, 0.0015) // 0.04
 */
export function missedVariance({ moved, own }: WaitingHalf, common: number): number {
  const likelihood = (variance: number) =>
    Math.exp(-(moved ** 2) / (2 * (own + variance))) / Math.sqrt(own + variance);
  const [usual, unlike] = [(1 - UNLIKE) * likelihood(common), UNLIKE * likelihood(UNLIKE_VARIANCE)];
  // Both are nought where it moved beyond anything.
  const doubt = usual + unlike > 0 ? unlike / (usual + unlike) : 1;
  return Math.max(common, doubt * UNLIKE_VARIANCE + (1 - doubt) * common);
}
