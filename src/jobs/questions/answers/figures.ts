import type { Day } from '../../../core/calendar/day';
import type { ShiftSeen } from '../../../core/shifts/seen';
import type { Span } from '../../../core/calendar/span';
import type { SheetLine } from '../../../core/lists/querySheet';
import type { SubjectDays } from '../../../core/history/subjectDays';
import { compareSubject, type SubjectQuery } from '../../../services/reading/compareSubject';
import type { ListAnswer, ListRequest } from '../../../services/lists/listRequest';
import { movingGroups, type MovingGroups } from '../../../services/figures/movingGroups';
import type { Led } from '../../../core/history/led';
import { ledFor } from '../../../services/figures/queryPages';
import { sheetLines } from '../../../services/lists/querySheet';
import type { ShiftQuery } from '../../../services/figures/shifts';
import { siteTotals, type TotalsRequest } from '../../../services/figures/totals';
import type { Metrics } from '../../../core/measures/comparison';
import { subjectDays, type DaysQuery } from '../../../services/figures/subjectDays';
import type { ListSpans } from '../../../core/lists/spans';
import type { AnswerSources } from './sources';

/** Questions about figures: comparisons, lists, days and what moves together. */
export function figureAnswers({ contextOf, engines, lists, queryPages, shifts }: AnswerSources) {
  return {
    /** A subject over two spans; null where the site is gone or has no figures. */
    comparison: ({ siteId, wish, asOf }: { siteId: number; wish: SubjectQuery; asOf: Day | null }) => {
      const context = contextOf(siteId, asOf, wish.after.lastDay);
      return context && compareSubject(context, engines, wish);
    },

    /** The four measures of a site or of some pages over two spans; null where the site is gone or has no figures. */
    totals: ({ siteId, request }: { siteId: number; request: TotalsRequest }): Metrics | null => {
      const context = contextOf(siteId, null, request.spans.now.lastDay);
      return context && siteTotals(context, engines, request);
    },

    /** Some lines of a list of pages, queries or pairs; null where the site is gone or has no figures. */
    list: ({ siteId, wish }: { siteId: number; wish: ListRequest }): ListAnswer | null => {
      const context = contextOf(siteId, null, wish.spans.now.lastDay);
      return context && lists.list(context, wish);
    },

    /** The ids of the pages that a list finds. */
    found: ({ siteId, wish }: { siteId: number; wish: ListRequest }): readonly number[] => {
      const context = contextOf(siteId, null, wish.spans.now.lastDay);
      return context ? lists.found(context, wish) : [];
    },

    /** What something brought day by day; null where the site is gone or has no figures. */
    days: ({ siteId, wish }: { siteId: number; wish: DaysQuery }): SubjectDays | null => {
      const context = contextOf(siteId);
      return context && subjectDays(context, { engines, queryPages }, wish);
    },

    /** Which of some pages led for a query, day by day. */
    led: (asked: { siteId: number; query: string; pageIds: readonly number[]; span: Span }): Led[] => {
      const context = contextOf(asked.siteId);
      return context ? ledFor(context, asked.query, asked.pageIds, asked.span) : [];
    },

    /** When the level of something shifted, and what happened near; null where the site is gone or has no figures. */
    shifts: ({ siteId, wish }: { siteId: number; wish: ShiftQuery }): ShiftSeen[] | null => {
      const context = contextOf(siteId);
      return context && shifts.of(context, wish);
    },

    /** The lines of a sheet of some pages; null where the site is gone or has no figures. */
    sheet: (asked: { siteId: number; pageIds: readonly number[]; spans: ListSpans }): SheetLine[] | null => {
      const context = contextOf(asked.siteId, null, asked.spans.now.lastDay);
      return context && sheetLines(context, { engines, lists }, asked.pageIds, asked.spans);
    },

    /** Which pages move with which; null where the site is gone or has no figures. */
    groups: ({ siteId }: { siteId: number }): MovingGroups | null => {
      const context = contextOf(siteId);
      return context && movingGroups(context, engines);
    },

    /** The clicks to be expected of the showings of a page in each of some spans; null where it has no figures. */
    expected: (asked: { siteId: number; pageId: number; spans: readonly Span[] }): number[] | null => {
      const context = contextOf(asked.siteId);
      return context && (engines.figures(context.site)?.expectedOf(asked.pageId, asked.spans) ?? null);
    },
  };
}
