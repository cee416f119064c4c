/* How each part of a reading is to be read, in plain words. */

export const METRICS_HOW_TO = (
  <ul className="mt-1 list-disc space-y-1 pl-5">
    <li>
      The days before the change are compared with equally many days after it; the days just after it are left
      out, since the result page does not show the change yet.
    </li>
    <li>
      The yardstick is what the pages that nobody touched did in the same days. Net is the page against its
      yardstick, less what usually comes back by itself after a dip.
    </li>
    <li>
      The range holds the true effect about nine times in ten. It comes from how far this site’s pages wander
      when nobody touches them. Lifted or dropped: it excludes no effect. Held: it lies within ±10%, the
      shaded part. Unclear: it could be either.
    </li>
    <li>
      CTR is all clicks over all impressions, position is weighted by impressions; neither is a mean of daily
      values.
    </li>
    <li>
      Appeal is clicks over those that the same showings would bring at this site’s usual CTR by position,
      query by query: 1.00 is as usual, 1.20 is chosen a fifth more often. Being shown for other searches, or
      at other ranks, does not move it; a better title does.
    </li>
    <li>
      Where nothing was expected beforehand, the verdict goes by what moved most: appeal, what was shown and
      where, rank, or clicks. Of untouched pages about one in ten would be called moved.
    </li>
  </ul>
);

export const PICTURE_HOW_TO = (
  <ul className="mt-1 list-disc space-y-1 pl-5">
    <li>
      Before is hollow and after is solid: the bars are the level of each span, so that a step shows as a
      step. The dashed line is what the untouched pages suggest; its gap to the solid bar is the effect.
    </li>
    <li>
      Position is turned over, so that up is better in every strip. Bands are outside events; strokes on the
      rail are changes, the fifth in a week crossing the other four.
    </li>
  </ul>
);

export const WHY_HOW_TO = (
  <p>
    The raw difference in clicks, shared out query by query. Reach: shown more or less often, new and lost
    queries included. Rank: stood where more or fewer people click. Appeal: chosen more or less than its place
    explains. Unseen: searches too rare to be named. The four add up to the difference. Season is in it,
    mostly in reach.
  </p>
);

export const DOUBTS_HOW_TO = (
  <p>
    Reasons to trust the reading less, the gravest first. An ordinary spell is the same comparison made on
    these pages at a past day when nobody touched them.
  </p>
);

export const WAIT_HOW_TO = (
  <p>
    The smallest effect that would be found 80 times in a hundred, at the page’s present level and ordinary
    swing. Longer spans count more clicks, but give the page more time to wander.
  </p>
);

export const PAGES_HOW_TO = (
  <p>
    Each page against its own yardstick. One page alone is seldom certain; the reading above pools them all,
    and takes into account that they wander together.
  </p>
);

export const QUERIES_HOW_TO = (
  <p>
    Before → after, with the difference under it; new and lost queries were seen in one span only, and those
    in bold are named by the change. A CTR difference in bold is more than counting alone could make it.
    Reach, rank and appeal are clicks. Choose a query above to read it by itself, with its own range.
  </p>
);
