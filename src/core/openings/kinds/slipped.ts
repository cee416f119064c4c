import { mediumDay, percentChange, share } from '../../words/format';
import { QUERIES_OF_PAGE, type KindDescription } from './kind';
import { quoted } from './phrases';

/** Pages whose clicks fell in a step. */
export const slipped: KindDescription = {
  name: 'slipped',
  // "Fell by 41% in a step about 28 Sep 2026, as the rest of /shop/ did (−34%). It was near “Clover update”."
  sentence: (of, { day, part, events = [] }) => {
    const when = day === undefined ? '' : ` about ${mediumDay(day)}`;
    const near = events.length > 0 ? ` It was near ${quoted(events.slice(0, 2))}.` : '';
    const shared = part
      ? `, as the rest of ${part.name} did (${percentChange(part.ratio)} beside the other parts of the site).`
      : ' that the rest of the site did not share.';
    return `Fell by ${share(1 - of('ratio'))} in a step${when}${shared}${near}`;
  },
  remedy: { kind: 'body-copy', metric: 'clicks', what: 'Win back' },
  rows: QUERIES_OF_PAGE,
  fitsExperiment: true,
};
