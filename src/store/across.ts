import { pagePath } from '../core/address/address';
import { changeSpans, spanLength } from '../core/calendar/span';
import { isMade } from '../core/model/steps';
import type { Site } from '../core/model/site';
import { asNet } from '../core/net/effect';
import type { SiteReader } from '../core/net/reader';
import { markOf } from '../core/net/verdict';
import type { Across, AcrossLine } from '../core/reading/across';
import { lastReadableDay } from '../core/reading/readable';
import { listChanges } from './changes';
import type { Db } from './database';
import { findEvent } from './events';
import { siteCoverage } from './figures';
import type { Readers } from './readers';

/** Longer events leave no room for spans that are about the same season. */
const LONGEST_EVENT = 60;

/** Which pages and parts of a site moved across an event, clicks beyond those of the rest; null where there is no event. */
export function movedAcross(db: Db, readers: Readers, site: Site, eventId: number): Across | null {
  const event = findEvent(db, eventId);
  if (!event || event.siteId !== site.id) return null;
  const settling = Math.min(LONGEST_EVENT, spanLength(event));
  const { before, after } = changeSpans(event.firstDay, site.windowDays, settling);
  const coverage = siteCoverage(db, site.id);
  const lastReadable = coverage && lastReadableDay(coverage, site.provisionalDays);
  const whole =
    lastReadable === null || lastReadable < after.lastDay
      ? null
      : readers.wholeSite(site, listChanges(db, site.id).filter(isMade), lastReadable);
  if (!whole) return { event, before, after, lines: null };
  const { reader, parts } = whole;
  const read = (name: string, pageId: number | null, ids: readonly number[]) =>
    lineOf(reader, event.firstDay, site.windowDays, settling, name, pageId, ids);
  const ids = Array.from({ length: reader.history.rows }, (_, row) => reader.history.idOf(row));
  return {
    event,
    before,
    after,
    lines: {
      parts: inOrder(parts.flatMap(({ name, pages }) => read(name, null, pages) ?? [])),
      pages: inOrder(
        readers.pages(site, ids).flatMap(({ id, address }) => read(pagePath(address), id, [id]) ?? []),
      ),
    },
  };
}

function lineOf(
  reader: SiteReader,
  day: Parameters<SiteReader['read']>[0],
  windowDays: number,
  settling: number,
  name: string,
  pageId: number | null,
  ids: readonly number[],
): AcrossLine | null {
  const effects = reader.read(day, ids, windowDays, settling);
  const clicks = effects?.effects.clicks;
  if (!effects || !clicks) return null;
  // Places are not asked for here, so no position to count them from is needed.
  const net = asNet(effects.effects, null);
  return { name, pageId, pages: ids.length, net, mark: markOf('clicks', clicks) };
}

/** Those that moved first, the largest effects first, then the rest. */
function inOrder(lines: readonly AcrossLine[]): AcrossLine[] {
  const moved = ({ mark }: AcrossLine) => mark === 'lifted' || mark === 'dropped';
  const size = ({ net }: AcrossLine) => Math.abs(Math.log(net.clicks?.ratio ?? 1));
  return [...lines].sort((a, b) => Number(moved(b)) - Number(moved(a)) || size(b) - size(a));
}
