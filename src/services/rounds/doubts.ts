import { pagePath } from '../../core/address/address';
import { overlap, type Span } from '../../core/calendar/span';
import { EVENT_KINDS } from '../../core/model/event';
import { pagesOf, type Half, type Round } from '../../core/model/round';
import { workBeforeDraw } from '../../core/rounds/randomised';
import type { LeftOut } from '../../core/rounds/reading';
import { datedSpan, longDay, plural, spanText } from '../../core/words/format';
import type { SiteContext } from '../site/siteContext';

type Read = {
  readonly round: Round;
  readonly half: Half;
  readonly spans: { readonly before: Span; readonly after: Span };
  readonly leftOut: readonly LeftOut[];
};

/** Kinds of events that can make one span unlike the other. */
const TELLING = ['algorithm-update', 'outage', 'tracking-fault', 'campaign'] as const;

/** What has to be said with the reading of a turn. */
export function doubtsOf({ events }: SiteContext, { round, half, spans, leftOut }: Read): string[] {
  const said: string[] = [];
  if (round.draw === 'all')
    said.push(
      'All pages were changed at once, so they are held against the rest of the site: without halves such a reading calls an effect that is not there more often than it says.',
    );
  const early = workBeforeDraw(round);
  if (early !== null)
    said.push(
      `Not randomised: work was recorded on ${longDay(early)}, before the halves were drawn on ${longDay(round.day)}. The range and the p-value are those of a random draw, which this was not.`,
    );
  if (round.draw === 'by-hand')
    said.push(
      'The halves were chosen by hand. The range and the chance are those of a draw, which this was not: pages that were chosen for a reason may have moved by themselves.',
    );
  const near = events.filter(
    (event) =>
      !event.hidden &&
      (TELLING as readonly string[]).includes(event.kind) &&
      (overlap(event, spans.before) !== null || overlap(event, spans.after) !== null),
  );
  for (const event of near.slice(0, 3))
    said.push(
      `${event.name} (${EVENT_KINDS[event.kind].toLowerCase()}, ${datedSpan(event)}) falls within these days; it met both halves alike${round.draw === 'halves' ? '' : ', as far as they are alike'}.`,
    );
  const pages = pagesOf(round, half).filter(({ steps }) => steps.made !== undefined);
  const late = pages.filter(
    ({ steps }) => steps.crawled !== undefined && steps.crawled > spans.after.firstDay,
  );
  if (late.length > 0)
    said.push(
      `${plural(late.length, 'page')} ${late.length === 1 ? 'was' : 'were'} crawled again only after ${longDay(spans.after.firstDay)}, so the effect is diluted.`,
    );
  const unseen = pages.filter(({ steps }) => steps['seen-in-results'] === undefined);
  if (pages.some(({ steps }) => steps['seen-in-results'] !== undefined) && unseen.length > 0)
    said.push(
      `Nobody has seen the new text of ${namesOf(unseen.map(({ page }) => page.address))} in the results yet.`,
    );
  if (leftOut.length > 0 && round.draw === 'halves') {
    const alone = leftAlone(round, new Set(leftOut.map(({ page }) => page.id)));
    const others =
      alone === 0
        ? ''
        : `, and with ${leftOut.length === 1 ? 'it' : 'them'} ${alone} more, with no page left to compare ${alone === 1 ? 'it' : 'them'} with`;
    said.push(`${plural(leftOut.length, 'page')} left the comparison (${spanText(spans.after)})${others}.`);
  }
  return said;
}

/** How many pages have nothing left in their block that went otherwise, since others left. */
function leftAlone({ pages }: Round, left: ReadonlySet<number>): number {
  const standing = pages.filter(({ page }) => !left.has(page.id));
  const key = ({ block, half }: Round['pages'][number]) => `${block}/${half}`;
  const there = new Set(standing.map(key));
  return standing.filter(({ block, half }) => !there.has(`${block}/${half === 'first' ? 'second' : 'first'}`))
    .length;
}

const SHOWN = 3;
function namesOf(addresses: readonly string[]): string {
  const paths = addresses.slice(0, SHOWN).map(pagePath).join(', ');
  return addresses.length > SHOWN ? `${paths} and ${addresses.length - SHOWN} more` : paths;
}
