import { changedEventFields, type OutsideEvent } from '../../core/model/event';
import { changedFields } from '../../core/model/changeHistory';
import type { Change } from '../../core/model/change';
import { editsOf, type Edit, type EditStamp } from '../../core/model/editHistory';
import type { Db } from '../../store/database';
import { HISTORY_SHOWN, historyOf } from '../../store/ledger/changeHistory';
import { eventHistoryOf } from '../../store/ledger/events';

/** Some edits of something, the last first, and the entry before which earlier ones lie; null where there are none. */
export type HistoryPart = { readonly edits: readonly Edit[]; readonly earlier: number | null };

type Past<T> = EditStamp & { readonly was: T };

/** `all` gives the entries before one, a part at a time, so that every edit can be reached however many there are. */
function part<T>(
  now: T,
  before: number | null,
  list: (before?: number) => readonly Past<T>[],
  changed: (before: T, after: T) => string[],
): HistoryPart {
  const past = before === null ? list() : list(before);
  // What an earlier part ends with is what the entry at its edge said.
  const edge = before === null ? now : list(before + 1).find(({ id }) => id === before)?.was;
  const more = past.length === HISTORY_SHOWN ? past.at(-1)!.id : null;
  return {
    edits: edge === undefined ? [] : editsOf(edge, past, changed),
    earlier: more !== null && list(more).length > 0 ? more : null,
  };
}

/** The edits of a change: the last ones, or those before an entry. */
export function changeHistory(db: Db, change: Change, before: number | null): HistoryPart {
  return part(change, before, (edge) => historyOf(db, change.id, edge), changedFields);
}

/** The edits of an event: the last ones, or those before an entry. */
export function eventHistory(db: Db, event: OutsideEvent, before: number | null): HistoryPart {
  return part(event, before, (edge) => eventHistoryOf(db, event.id, edge), changedEventFields);
}
