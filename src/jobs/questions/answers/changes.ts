import type { Day } from '../../../core/calendar/day';
import type { Across } from '../../../core/reading/across';
import type { LedgerEntry } from '../../../core/reading/ledgerEntry';
import type { Change } from '../../../core/model/change';
import type { DeskLine } from '../../../core/desk/desk';
import type { Reading } from '../../../core/reading/readingModel';
import type { PageChain } from '../../../core/reading/pageChain';
import { movedAcross } from '../../../services/events/acrossEvent';
import { foresightOf } from '../../../services/reading/foresight';
import { pageChain } from '../../../services/reading/pageChain';
import { pictureOf, type ReadingPicture } from '../../../services/reading/readingPicture';
import { readChange, type ReadingQuery } from '../../../services/reading/readChange';
import { ledgerOf, readChanges } from '../../../services/reading/readChanges';
import { desk } from '../../../services/desk/desk';
import { memoizeByName } from '../../../services/site/siteContext';
import type { SpanQuery } from '../../../services/reading/readingSpans';
import type { Packed } from '../../../core/lists/packed';
import { findChange } from '../../../store/ledger/findChanges';
import type { OfSite } from '../ofSite';
import type { AnswerSources } from './sources';

/** A reading and what its picture shows. */
export type PicturedReading = { readonly reading: Reading; readonly picture: ReadingPicture };

/** The readings of a list that are on their way, and whether there are more. */
export type SomeReadings = { readonly readings: readonly Reading[]; readonly more: boolean };

/** Pictured readings of a context that are kept; each takes some fifty kilobytes. */
const MOST_PICTURED = 100;

/** The changes of some readings that plainly brought a drop before their days are over, and since when. */
const droppedPlainly = (readings: readonly Reading[]) =>
  readings.flatMap(({ change, early }) =>
    early?.called === 'dropped' ? [[change.id, early.day] as const] : [],
  );

/** Questions about changes: their readings, one and all, and what follows from them. */
export function changeAnswers({ contextOf, db, engines }: AnswerSources) {
  const desks = memoizeByName<DeskLine[]>(1);
  /** Readings that were looked at; most look at the same few. */
  const pictured = memoizeByName<PicturedReading>(MOST_PICTURED);
  /** Lists that somebody is in the middle of, so that an edit meanwhile moves nothing in them. */
  const begun = new Map<number, readonly Reading[]>();
  let count = 0;

  const all = (siteId: number, wish: SpanQuery = {}): readonly Reading[] => {
    const context = contextOf(siteId);
    return context ? readChanges(context, engines, wish) : [];
  };

  return {
    /** The reading of one change; null where it is gone. */
    reading: ({ changeId, wish }: OfSite & { changeId: number; wish: ReadingQuery }): Reading | null => {
      const change = findChange(db, changeId);
      const context = change && contextOf(change.siteId, wish.asOf);
      return change && context && readChange(context, engines, change, wish);
    },

    /** The reading of one change with what its picture shows; null where it is gone. */
    picturedReading: (asked: OfSite & { changeId: number; wish: ReadingQuery }): PicturedReading | null => {
      const change = findChange(db, asked.changeId);
      const context = change && contextOf(change.siteId, asked.wish.asOf);
      if (!change || !context) return null;
      return pictured(context, JSON.stringify([change.id, asked.wish]), () => {
        const reading = readChange(context, engines, change, asked.wish);
        return { reading, picture: pictureOf(context, engines, reading) };
      });
    },

    /** Begins a list of the readings of all changes of a site, newest first, which stays as it is until it is ended. */
    beginList: ({ siteId, wish }: OfSite & { wish: SpanQuery }): number => {
      begun.set(++count, all(siteId, wish));
      return count;
    },

    /** Some readings of a list that was begun. */
    partOfList: ({ list, from, to }: OfSite & { list: number; from: number; to: number }): SomeReadings => {
      const readings = begun.get(list) ?? [];
      return { readings: readings.slice(from, to), more: to < readings.length };
    },

    endList: ({ list }: OfSite & { list: number }): boolean => begun.delete(list),

    /** The lines of the ledger of a site, newest change first. */
    ledger: ({ siteId }: { siteId: number }): Packed<LedgerEntry> => ledgerOf(all(siteId)),

    /** By id of an event, how many readings of the site have a caution because of it. */
    doubtedEvents: ({ siteId }: { siteId: number }): Record<number, number> => {
      const counts: Record<number, number> = {};
      for (const { cautions } of all(siteId)) {
        for (const { eventId } of cautions)
          if (eventId !== null) counts[eventId] = (counts[eventId] ?? 0) + 1;
      }
      return counts;
    },

    /** The changes that plainly brought a drop before their days are over, and since when. */
    plainDrops: ({ siteId }: OfSite): (readonly [changeId: number, since: Day])[] =>
      droppedPlainly(all(siteId)),

    /** What is due on a site; none where it is gone. */
    desk: ({ siteId }: OfSite): readonly DeskLine[] => {
      const context = contextOf(siteId);
      if (!context) return [];
      const drops = new Map(droppedPlainly(readChanges(context, engines)));
      return desks(context, 'desk', () => desk(context, drops));
    },

    /** Who moved across an event; null where there is no such event. */
    across: ({ siteId, eventId }: { siteId: number; eventId: number }): Across | null => {
      const context = contextOf(siteId);
      return context && movedAcross(context, engines, eventId);
    },

    /** The changes of a page, each against its own spans; null where there is no such site. */
    chain: ({ siteId, pageId }: { siteId: number; pageId: number }): PageChain | null => {
      const context = contextOf(siteId);
      return context && pageChain(context, engines, pageId);
    },

    /** Whether the pages of a change that is only thought of could show what is expected of it; null where nothing is. */
    foresight: ({ siteId, thought }: { siteId: number; thought: Change }): string | null => {
      const context = contextOf(siteId);
      return context && foresightOf(context, engines, thought);
    },
  };
}
