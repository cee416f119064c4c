import { addDays, asDay } from '../../core/calendar/day';
import { spanLength } from '../../core/calendar/span';
import { pagePath } from '../../core/address/address';
import type { History } from '../../core/history/history';
import type { Change } from '../../core/model/change';
import type { Measure } from '../../core/measures/registry';
import { plainSentence, readingSentence } from '../../core/reading/readingSentence';
import { longDay } from '../../core/words/format';
import type { Daily } from '../../core/working/days';
import type { WorkSheet } from '../../core/working/workSheet';
import { workingSheets } from '../../core/working/workbook';
import type { Engines } from '../site/engines';
import { readChange, sourceOf, type ReadingQuery } from '../reading/readChange';
import type { SiteContext } from '../site/siteContext';

/** A workbook of more pages than this is more than anybody checks, and than most programs open. */
export const MOST_WORKED_PAGES = 40;

/**
 * The working of a reading: its net and its range as formulas over daily figures, on one measure, the one it is judged by unless another is wished.
 * Null where there is nothing to work out.
 */
export function readingWorking(
  context: SiteContext,
  engines: Engines,
  change: Change,
  wish: ReadingQuery & { readonly measure?: Measure | null },
): WorkSheet[] | null {
  const reading = readChange(context, engines, change, wish);
  const { engine, rows } = sourceOf(context, engines, change, wish);
  const after = reading.compared?.after;
  if (!engine || !after || rows.length > MOST_WORKED_PAGES) return null;
  const horizon = { days: spanLength(after), settlingDays: reading.spans.settlingDays };
  const measure = wish.measure ?? reading.movedIn ?? reading.judged;
  const working = engine.working({ ids: rows, day: change.day, horizon }, measure);
  if (!working) return null;
  const ids = [...working.subjects, ...working.control].map(({ id }) => id);
  const paths = new Map(engines.pages(context.site, ids).map(({ id, address }) => [id, pagePath(address)]));
  return workingSheets(
    working,
    dailyOf(engine.history, working),
    [
      `${change.title}: how its reading is worked out`,
      plainSentence(readingSentence(reading)),
      `Made from the figures as they stood on ${longDay(context.today)}. The program keeps weeks in single precision, so the two may differ from the sixth digit on.`,
    ],
    (id) => paths.get(id) ?? wish.query ?? `row ${id}`,
  );
}

/** The days from the first week that is looked at to the newest, with what each row had on them. */
function dailyOf(history: History, { day, horizon, components }: Parameters<typeof workingSheets>[0]): Daily {
  const weeks = components.flatMap(({ subjects, control }) =>
    [...subjects, ...control].flatMap(({ past }) => past?.weeks.map(({ firstDay }) => firstDay) ?? []),
  );
  const first = weeks.reduce((a, b) => Math.min(a, b), day - horizon.days);
  const firstDay = Math.max(first, history.firstDay);
  const days = history.lastDay - firstDay + 1;
  return {
    firstDay,
    covered: Array.from({ length: days }, (_, i) => {
      const one = asDay(firstDay + i);
      return history.covered({ firstDay: one, lastDay: one }) === 1;
    }),
    of: (column, id) => {
      const row = history.row(id)!;
      const sums = history.sums[column];
      const upTo = (at: number) => sums[history.offset(addDays(asDay(firstDay), at)) * history.rows + row]!;
      return Array.from({ length: days }, (_, i) => upTo(i + 1) - upTo(i));
    },
  };
}
