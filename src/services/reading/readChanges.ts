import type { Day } from '../../core/calendar/day';
import type { Change } from '../../core/model/change';
import { NOT_NARROWED } from '../../core/reading/narrowing';
import type { Reading } from '../../core/reading/readingModel';
import { packed, type Packed } from '../../core/lists/packed';
import { ledgerEntry, type LedgerEntry } from '../../core/reading/ledgerEntry';
import { pageDaysIn } from '../../store/figures/days';
import type { Engines } from '../site/engines';
import { coveredDaysOf, readFrom, type CoveredDays } from './readChange';
import type { ReadingsKept } from './readingsKept';
import type { SiteContext } from '../site/siteContext';
import { figuresStamp } from '../../store/figures/figuresStamp';
import { spansOf, wholeSpan, type SpanQuery } from './readingSpans';

/**
 * The readings of all changes of a site, newest change first, without what only single readings
 * have: queries, why clicks changed, the year before, how long to wait.
 */
export function readChanges(
  context: SiteContext,
  engines: Engines,
  wish: SpanQuery = {},
): readonly Reading[] {
  return engines.listOf(context, JSON.stringify(wish), (kept) => listed(context, engines, wish, kept));
}

/** Makes the list, reusing readings of the last one whose dependencies haven’t changed. */
function listed(
  context: SiteContext,
  engines: Engines,
  wish: SpanQuery,
  kept: ReadingsKept,
): readonly Reading[] {
  const { db, site, changes, made, events, today, lastReadable } = context;
  if (changes.length === 0) return [];
  const wanted = changes.map((change) => ({ change, spans: spansOf(site, change, wish) }));
  const span = {
    firstDay: Math.min(...wanted.map(({ spans }) => spans.before.firstDay)) as Day,
    lastDay: Math.max(...wanted.map(({ spans }) => spans.after.lastDay)) as Day,
  };
  const engine = context.known && engines.engine(site, context.known);
  let days: CoveredDays | null = null;
  const covered = () => (days ??= coveredDaysOf(context, span));
  const onPage = changesByPage(made);
  const known = JSON.stringify([figuresStamp(db, site.id), site, events, today, lastReadable]);
  return kept.list(engine, known, wanted, ({ change, spans }) => {
    const rows = change.pages.map((page) => page.id);
    const others = [...new Set(rows.flatMap((id) => onPage.get(id) ?? []))];
    return {
      dependsOn: [change, ...others],
      make: () => {
        const pageDays = pageDaysIn(db, rows, wholeSpan(spans));
        return readFrom(context, engines, {
          // Of pages without figures only a reading looked at by itself says where they may be.
          ...{ change, spans, covered: covered(), otherChanges: others, wrongTwins: [] },
          source: { narrowed: NOT_NARROWED, pageDays, queryDays: [], engine, rows, detail: null },
        });
      },
    };
  });
}

function changesByPage(changes: readonly Change[]): Map<number, Change[]> {
  const byPage = new Map<number, Change[]>();
  for (const change of changes) {
    for (const { id } of change.pages) {
      const known = byPage.get(id);
      if (known) known.push(change);
      else byPage.set(id, [change]);
    }
  }
  return byPage;
}

/** Ledger lines of readings, each made once, and the ledger until a reading changes. */
export function ledgerOf(readings: readonly Reading[]): Packed<LedgerEntry> {
  const known = ledgers.get(readings);
  if (known !== undefined) return known;
  const entries = readings.map((reading) => {
    const line = lines.get(reading) ?? ledgerEntry(reading);
    lines.set(reading, line);
    return line;
  });
  const made = packed(entries);
  ledgers.set(readings, made);
  return made;
}
const lines = new WeakMap<Reading, LedgerEntry>();
const ledgers = new WeakMap<readonly Reading[], Packed<LedgerEntry>>();
