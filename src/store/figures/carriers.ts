import type { Day } from '../../core/calendar/day';
import type { Span } from '../../core/calendar/span';
import type { Carrier } from '../../core/reading/readingModel';
import { prepared, type Db } from '../database';
import { pageFacts } from './layers';
import { shown } from './figuresSnapshot';

/**
 * First and last day with impressions of each written URL of pages within a span, earliest first.
 */
export function carriersOf(db: Db, pageIds: readonly number[], span: Span): Carrier[] {
  const found = new Map<number, { firstDay: number; lastDay: number }>();
  for (const pageId of pageIds) {
    for (const grain of ['page_day', 'page_query_day'] as const) {
      for (const { addressId, facts } of pageFacts(db, pageId, grain, span)) {
        for (let row = 0; row < facts.rows; row++) {
          const day = facts.day[row]!;
          if (day < span.firstDay || day > span.lastDay || facts.values[1]![row] === 0) continue;
          const known = found.get(addressId);
          if (!known) found.set(addressId, { firstDay: day, lastDay: day });
          else {
            known.firstDay = Math.min(known.firstDay, day);
            known.lastDay = Math.max(known.lastDay, day);
          }
        }
      }
    }
  }
  const text = prepared<[number], string>(shown(db), 'SELECT text FROM address WHERE id = ?').pluck();
  return [...found]
    .map(([id, days]) => ({ address: text.get(id) ?? '', ...(days as { firstDay: Day; lastDay: Day }) }))
    .sort((a, b) => a.firstDay - b.firstDay || a.lastDay - b.lastDay);
}
