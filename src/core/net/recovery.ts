/**
 * What a site's untouched pages have shown of how moves come about, as variances and covariances on the log scale
 * beyond counting: of a page's move, its dip (before span above long level) and its lean (last week above before span),
 * each less those of its yardstick.
 */
export type Moments = {
  readonly move: number;
  readonly dip: number;
  readonly lean: number;
  readonly moveWithDip: number;
  readonly moveWithLean: number;
  readonly dipWithLean: number;
};

/** Counting noise of the spans of one page; `long` and `lean` are null where there is no long level or last week. */
export type Noise = {
  readonly before: number;
  readonly after: number;
  readonly long: number | null;
  readonly lean: number | null;
};

/**
 * What of a page's move comes by itself: `dipShare` times its dip and `leanShare` times its lean. `variance` is that of
 * the move once this is taken off.
 */
export type Recovery = { readonly dipShare: number; readonly leanShare: number; readonly variance: number };

/** No more than the whole of a dip comes back, and no lean goes on at more than this many times itself. */
const MOST_DIP_SHARE = 1;
const MOST_LEAN_SHARE = 1.5;

/**
 * The best linear prediction of a page's move from its dip and its lean. The more counting noise its before span has,
 * the more of a dip is chance, all of which goes by itself: so a page with few clicks wins back more of its dips than
 * one with many. The counting noises of dip and move share that of the before span; that of the lean is independent
 * of both, since the last week's part in the before span cancels.
 */
export function recovery(moments: Moments, noise: Noise): Recovery {
  const counting = noise.before + noise.after;
  const all = moments.move + counting;
  const dipKnown = noise.long !== null;
  const leanKnown = noise.lean !== null;
  const dip = dipKnown ? moments.dip + noise.before + noise.long : 1;
  const lean = leanKnown ? moments.lean + noise.lean : 1;
  const both = dipKnown && leanKnown ? moments.dipWithLean : 0;
  const withDip = dipKnown ? moments.moveWithDip - noise.before : 0;
  const withLean = leanKnown ? moments.moveWithLean : 0;
  // The two normal equations, solved in place: this runs for every page and past week.
  const determinant = Math.max(dip * lean * 0.2, dip * lean - both * both);
  const bound = (share: number, most: number) => Math.min(most, Math.max(-most, share));
  const dipShare = bound((withDip * lean - withLean * both) / determinant, MOST_DIP_SHARE);
  const leanShare = bound((withLean * dip - withDip * both) / determinant, MOST_LEAN_SHARE);
  const variance =
    all -
    2 * (dipShare * withDip + leanShare * withLean) +
    dipShare * dipShare * dip +
    leanShare * leanShare * lean +
    2 * dipShare * leanShare * both;
  return { dipShare, leanShare, variance: Math.max(counting / 4, variance) };
}

/** A dip counts as no further out than this many standard deviations. */
const FURTHEST = 3;

/**
 * How far a page's dip was out of the ordinary: its square in variances of a dip, less 1, so that it is nought on
 * average; 0 where there is no long level.
 */
export function strain(moments: Moments, noise: Noise, dip: number): number {
  if (noise.long === null) return 0;
  return Math.min(FURTHEST ** 2, (dip * dip) / (moments.dip + noise.before + noise.long)) - 1;
}

/** The variance of a page's move where such strain makes it less sure, by `perStrain` of itself for each unit. */
export function strained(variance: number, strainOfDip: number, perStrain: number): number {
  return variance * Math.max(0.7, 1 + perStrain * strainOfDip);
}
