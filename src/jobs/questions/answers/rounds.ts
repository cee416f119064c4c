import type { Day } from '../../../core/calendar/day';
import type { PageRef } from '../../../core/model/change';
import { roundCandidates, type Candidate } from '../../../services/rounds/candidates';
import { planRound, type PlanQuery, type RoundPlan } from '../../../services/rounds/plan';
import { readRound, type RoundReading } from '../../../services/rounds/read';
import { roundSeen, type RoundSeen } from '../../../services/rounds/seen';
import type { BookSource, Scorebook } from '../../../core/scorebook/book';
import type { KindScore } from '../../../core/scorebook/kindScore';
import type { ScoredBy } from '../../../core/scorebook/scorebook';
import { findRound, listRounds } from '../../../store/rounds/rounds';
import type { OfSite } from '../ofSite';
import type { AnswerSources } from './sources';

/** Questions about rounds and the scorebook. */
export function roundAnswers({ contextOf, db, engines, queryPages, books }: AnswerSources) {
  return {
    /** What is known of pages that are thought of for a round; none where the site is gone. */
    roundCandidates: (asked: { siteId: number; pages: readonly PageRef[] }): Candidate[] => {
      const context = contextOf(asked.siteId);
      return context ? roundCandidates(context, engines, asked.pages) : [];
    },

    /** What pages could show as a round; null where the site is gone. */
    roundPlan: ({ siteId, wish }: { siteId: number; wish: PlanQuery }): RoundPlan | null => {
      const context = contextOf(siteId);
      return context && planRound(context, engines, wish);
    },

    /** A round read, with its pictures; null where it is gone. */
    round: ({ roundId, asOf }: OfSite & { roundId: number; asOf: Day | null }): RoundSeen | null => {
      const found = findRound(db, roundId);
      const context = found && contextOf(found.siteId, asOf);
      return found && context && roundSeen(context, { engines, queryPages }, found);
    },

    /** A round read, without pictures; null where it is gone. */
    roundReading: ({
      roundId,
      asOf,
    }: OfSite & { roundId: number; asOf: Day | null }): RoundReading | null => {
      const found = findRound(db, roundId);
      const context = found && contextOf(found.siteId, asOf);
      return found && context && readRound(context, engines, found);
    },

    /** The rounds of a site read, by number, as their list shows them. */
    rounds: ({ siteId }: { siteId: number }): [roundId: number, reading: RoundReading][] => {
      const context = contextOf(siteId);
      if (!context) return [];
      return listRounds(db, siteId).map((round) => [round.id, readRound(context, engines, round)]);
    },

    /** What changes of each sort brought on a site, together with what they brought on others. */
    scorebook: ({
      siteId,
      by,
      others,
    }: OfSite & { by: ScoredBy; others: readonly BookSource[] }): Scorebook => {
      const context = contextOf(siteId);
      return books.book(context ? [books.of(context), ...others] : others, by);
    },

    /** What a scorebook of the site is made from; null where it is gone. */
    bookSource: ({ siteId }: OfSite): BookSource | null => {
      const context = contextOf(siteId);
      return context && books.of(context);
    },

    /** What changes of a kind brought, and title changes with each mark; null where none was read. */
    kindScore: ({ siteId, kind }: { siteId: number; kind: string }): KindScore | null => {
      const context = contextOf(siteId);
      return context && books.kind(context, kind);
    },
  };
}
