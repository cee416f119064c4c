import { ledgerEntry } from '../../core/reading/ledgerEntry';
import type { PageChain } from '../../core/reading/pageChain';
import type { Change } from '../../core/model/change';
import { isMade } from '../../core/model/steps';
import { changesOnPages } from '../../store/ledger/findChanges';
import type { Engines } from '../site/engines';
import { readChange } from './readChange';
import type { SiteContext } from '../site/siteContext';
import { spansOf } from './readingSpans';

const MOST_CHANGES = 12;
const WEEK = 7;

/**
 * The changes of a page as a chain: each is read on this page alone, and if the next change falls
 * into its after span, over the whole weeks before that (docs/method.md, 7).
 */
export function pageChain(context: SiteContext, engines: Engines, pageId: number): PageChain {
  const { db, site } = context;
  const changes = changesOnPages(db, [pageId]).slice(0, MOST_CHANGES);
  const made = changes.filter(isMade);
  const links = changes.map((change) => {
    const next = isMade(change) ? nextAfter(change, made) : null;
    const spans = spansOf(site, change);
    const left = next === null ? Infinity : next.day - spans.after.firstDay;
    const cut = left < spans.windowDays;
    const windowDays = cut ? Math.max(WEEK, Math.floor(left / WEEK) * WEEK) : spans.windowDays;
    const reading = readChange(context, engines, change, { windowDays, pageId: onlyOf(change, pageId) });
    return {
      entry: ledgerEntry(reading),
      spans: reading.spans,
      cutBy: cut ? next!.title : null,
      tooShort: left < WEEK,
    };
  });
  return { links, whole: wholeChain(context, engines, made, pageId) };
}

/** The page where a change has several; a change of one page is not narrowed. */
function onlyOf({ pages }: Change, pageId: number): number | null {
  return pages.length > 1 ? pageId : null;
}

/** The next change of a page after one, on a later day. Changes are given newest first. */
function nextAfter({ day }: Change, made: readonly Change[]): Change | null {
  return made.findLast((other) => other.day > day) ?? null;
}

function wholeChain(
  context: SiteContext,
  engines: Engines,
  made: readonly Change[],
  pageId: number,
): PageChain['whole'] {
  const [last, first] = [made[0], made.at(-1)];
  if (!last || !first || last.day === first.day) return null;
  const settlingDays = last.day - first.day + spansOf(context.site, last).settlingDays;
  const reading = readChange(context, engines, first, { settlingDays, pageId: onlyOf(first, pageId) });
  return { entry: ledgerEntry(reading), spans: reading.spans };
}
