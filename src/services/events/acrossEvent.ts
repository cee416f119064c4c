import { pagePath } from '../../core/address/address';
import type { Day } from '../../core/calendar/day';
import { changeSpans, spanLength } from '../../core/calendar/span';
import { asNet } from '../../core/effect/effect';
import type { EffectEngine } from '../../core/effect/engine';
import type { Horizon } from '../../core/effect/kriging';
import { markOf } from '../../core/effect/verdict';
import type { Across, AcrossLine } from '../../core/reading/across';
import { findEvent } from '../../store/ledger/events';
import type { Engines } from '../site/engines';
import type { SiteContext } from '../site/siteContext';
import { totalsOf } from '../figures/totals';

/** Longer events leave no room for spans that are about the same season. */
const LONGEST_EVENT = 60;

/** Which pages and parts of a site moved across an event, clicks beyond those of the rest; null where there is no event. */
export function movedAcross(context: SiteContext, engines: Engines, eventId: number): Across | null {
  const { db, site, known } = context;
  const event = findEvent(db, eventId);
  if (!event || event.siteId !== site.id) return null;
  const settling = Math.min(LONGEST_EVENT, spanLength(event));
  const { before, after } = changeSpans(event.firstDay, site.windowDays, settling);
  const engine = known && known.lastReadable >= after.lastDay ? engines.engine(site, known) : null;
  if (!engine) return { event, before, after, lines: null };
  const horizon = { days: site.windowDays, settlingDays: settling };
  // Held against all the rest of the site alike: what a whole part of it did is to show.
  const control = engine.controlIds(event.firstDay, horizon);
  const read = (name: string, pageId: number | null, ids: readonly number[]) =>
    lineOf(
      engine,
      { day: event.firstDay, horizon, control },
      { name, pageId, pages: ids.length, raw: totalsOf(figures, { spans, device: 0, pageIds: ids }) },
      ids,
    );
  const figures = engines.figures(site)!;
  const spans = { now: after, was: before };
  const ids = Array.from({ length: engine.history.rows }, (_, row) => engine.history.idOf(row));
  return {
    event,
    before,
    after,
    lines: {
      site: totalsOf(figures, { spans, device: 0 }),
      parts: inOrder(
        engines.partsOf(site, engine).flatMap(({ name, pages }) => read(name, null, pages) ?? []),
      ),
      pages: inOrder(
        engines.pages(site, ids).flatMap(({ id, address }) => read(pagePath(address), id, [id]) ?? []),
      ),
    },
  };
}

type AgainstTheRest = { readonly day: Day; readonly horizon: Horizon; readonly control: readonly number[] };

function lineOf(
  engine: EffectEngine,
  { day, horizon, control }: AgainstTheRest,
  about: Pick<AcrossLine, 'name' | 'pageId' | 'pages' | 'raw'>,
  ids: readonly number[],
): AcrossLine | null {
  const part = new Set(ids);
  const rest = control.filter((id) => !part.has(id));
  const effects = engine.compare({ ids, day, horizon, control: { ids: rest } });
  const clicks = effects?.effects.clicks;
  if (!effects || !clicks) return null;
  // Places are not asked for here, so no position to count them from is needed.
  const net = asNet(effects.effects, null);
  return { ...about, net, mark: markOf('clicks', clicks) };
}

/** Those that moved first, the largest effects first, then the rest. */
function inOrder(lines: readonly AcrossLine[]): AcrossLine[] {
  const moved = ({ mark }: AcrossLine) => mark === 'lifted' || mark === 'dropped';
  const size = ({ net }: AcrossLine) => Math.abs(Math.log(net.clicks?.ratio ?? 1));
  return [...lines].sort((a, b) => Number(moved(b)) - Number(moved(a)) || size(b) - size(a));
}
