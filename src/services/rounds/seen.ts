import { addDays, type Day } from '../../core/calendar/day';
import type { Span } from '../../core/calendar/span';
import type { SubjectDays } from '../../core/history/subjectDays';
import { pagesOf, type Half, type Round } from '../../core/model/round';
import type { TurnReading } from '../../core/rounds/reading';
import type { Engines } from '../site/engines';
import type { QueryPages } from '../figures/queryPages';
import type { SiteContext } from '../site/siteContext';
import { subjectDays } from '../figures/subjectDays';
import { readRound, type RoundReading } from './read';

/** What the strips of a turn show: both halves day by day. */
export type TurnPicture = {
  readonly half: Half;
  readonly shown: Span;
  readonly changed: SubjectDays;
  readonly waiting: SubjectDays | null;
};

/** A round as its screen shows it. */
export type RoundSeen = RoundReading & { readonly pictures: readonly TurnPicture[] };

/** Days shown on either side of the spans. */
const MARGIN_DAYS = 21;

/** A round read, with its pictures. */
export function roundSeen(
  context: SiteContext,
  on: { readonly engines: Engines; readonly queryPages: QueryPages },
  round: Round,
): RoundSeen {
  const reading = readRound(context, on.engines, round);
  const pictures = [reading.first, reading.second].flatMap((turn) =>
    turn ? (pictureOf(context, on, round, turn) ?? []) : [],
  );
  return { ...reading, pictures };
}

function pictureOf(
  context: SiteContext,
  on: { readonly engines: Engines; readonly queryPages: QueryPages },
  round: Round,
  { half, before, after, leftOut, waiting }: TurnReading,
): TurnPicture | null {
  const { lastReadable } = context;
  if (lastReadable === null) return null;
  const shown = {
    firstDay: addDays(before.firstDay, -MARGIN_DAYS),
    lastDay: Math.min(lastReadable, addDays(after.lastDay, MARGIN_DAYS)) as Day,
  };
  const out = new Set(leftOut.map(({ page }) => page.id));
  const daysOf = (own: Half) => {
    const pageIds = pagesOf(round, own)
      .map(({ page }) => page.id)
      .filter((id) => !out.has(id));
    return subjectDays(context, on, { pageIds, query: null, device: 0, span: shown });
  };
  const changed = daysOf(half);
  if (!changed) return null;
  return { half, shown, changed, waiting: waiting && daysOf(half === 'first' ? 'second' : 'first') };
}
