/* The site's untouched pages beside the half that waits: how far they may be trusted for the pages of a round. */

/** The prior probability that the yardstick fails a round as it never failed before, and the variance of its error then. */
const [UNLIKE, UNLIKE_VARIANCE] = [0.03, 0.04];

/**
 * The prior degrees of freedom of the engine's variances: how many further pages they are worth when a round estimates its own scatter. On simulated sites the variances match the
 * scatter so well that hundreds would be justified (docs/rounds.md); real sites may be less well modelled, hence fewer.
 */
export const PRIOR_FREEDOM = 30;

/** A half that waits: by how much it moved net of the yardstick, and the variance of that which is its pages' own. */
export type WaitingHalf = { readonly moved: number; readonly own: number };

/**
 * The variance of what the yardstick misses of the pages of a round: `common` as the past tells it, unless the half that waits moved so that this time is
 * unlike the past, and then so much that this half is the control almost alone.
 * Source: Schmidli et al., Biometrics 70 (2014) 1023-1032 (from memory): a mixture with a vague part, which takes over where the two kinds of controls disagree.
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
