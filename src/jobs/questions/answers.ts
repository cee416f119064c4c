import type { Day } from '../../core/calendar/day';
import { Unlearned, type Pace } from '../../core/effect/inSteps';
import type { Across } from '../../core/reading/across';
import type { LedgerEntry } from '../../core/reading/ledgerEntry';
import type { Change, PageRef } from '../../core/model/change';
import type { OpeningDetail } from '../../core/openings/named';
import type { DeskLine } from '../../core/desk/desk';
import type { Reading } from '../../core/reading/model';
import type { ShiftSeen } from '../../core/shifts/seen';
import type { PageChain } from '../../core/reading/pageChain';
import type { Span } from '../../core/calendar/span';
import type { SheetLine } from '../../core/lists/sheet';
import type { SubjectDays } from '../../core/history/subjectDays';
import { compareSubject, type SubjectWish } from '../../services/compareSubject';
import { Lists } from '../../services/lists/lists';
import { listWish } from '../../services/lists/wish';
import type { ListAnswer, ListWish } from '../../services/lists/model';
import { movingGroups, type MovingGroups } from '../../services/movingGroups';
import { movedAcross } from '../../services/across';
import { Engines } from '../../services/engines';
import { foresightOf } from '../../services/foresight';
import { OpeningsKept, type OpeningsPart, type OpeningsWish } from '../../services/openings/kept';
import { Findings } from '../../services/findings';
import { Behind } from '../../services/learning';
import { Links, linksSeen, type LinksSeen } from '../../services/links';
import type { Led } from '../../core/history/led';
import type { DraftReport } from '../../core/wording/draft';
import { Wordings, type WordingSeen, type WordingWish } from '../../services/wording/wordings';
import { ledFor, QueryPages } from '../../services/queryPages';
import { othersFirst, type Progress, type Tell } from '../../services/turns';
import { pageChain } from '../../services/pageChain';
import { pictureOf, type ReadingPicture } from '../../services/picture';
import { readChange, type ReadingWish } from '../../services/readChange';
import { ledgerOf, readChanges } from '../../services/readChanges';
import { sheetLines } from '../../services/sheet';
import { desk } from '../../services/desk';
import { Contexts } from '../../services/contexts';
import { keptOf } from '../../services/siteContext';
import { Shifts, type ShiftWish } from '../../services/shifts';
import { roundCandidates, type Candidate } from '../../services/rounds/candidates';
import { planRound, type PlanWish, type RoundPlan } from '../../services/rounds/plan';
import { readRound, type RoundReading } from '../../services/rounds/read';
import { roundSeen, type RoundSeen } from '../../services/rounds/seen';
import { Books } from '../../services/scorebook/books';
import type { BookSource, Scorebook } from '../../core/scorebook/book';
import type { KindScore } from '../../core/scorebook/kindScore';
import { LIST_SUBJECTS } from '../../core/lists/columns';
import { listQuerySchema } from '../../core/lists/wish';
import type { ScoredBy } from '../../core/scorebook/scorebook';
import type { ReportContent } from '../../core/report/model';
import { buildReport } from '../../services/report/build';
import { readingReport } from '../../services/report/reading';
import { roundReport } from '../../services/report/round';
import { readingWorking } from '../../services/report/working';
import type { WorkSheet } from '../../core/working/sheet';
import type { Measure } from '../../core/model/change';
import { findReport } from '../../store/reports/reports';
import { subjectDays, type DaysWish } from '../../services/subjectDays';
import type { SpanWish } from '../../services/spans';
import type { Packed } from '../../core/lists/packed';
import type { ListSpans } from '../../store/figures/pairs';
import { findChange } from '../../store/ledger/changes';
import type { Db } from '../../store/database';
import type { Manner, Who } from './generation';
import { findRound, listRounds } from '../../store/rounds/rounds';

/** A reading and what its picture shows. */
export type PicturedReading = { readonly reading: Reading; readonly picture: ReadingPicture };

/** The readings of a list that are on their way, and whether there are more. */
export type SomeReadings = { readonly readings: readonly Reading[]; readonly more: boolean };

/** The changes of some readings that plainly brought a drop before their days are over, and since when. */
const plainDrops = (readings: readonly Reading[]) =>
  readings.flatMap(({ change, early }) =>
    early?.called === 'dropped' ? [[change.id, early.day] as const] : [],
  );

/** Pictured readings of a context that are kept; each takes some fifty kilobytes. */
const MOST_PICTURED = 100;

/** What an answer depends on besides the question: all of it may be left out. */
export type Surroundings = {
  readonly tell?: Tell;
  /** Told where there are changes to learn from that were not known. */
  readonly outdated?: () => void;
  /** Holds the figures of a site as they are shown. */
  readonly hold?: (siteId: number) => void;
  /** How the question is answered that is being put. */
  readonly manner?: () => Manner;
  /** How it is learned what is not known. */
  readonly pace?: Pace;
};

/**
 * All that can be asked of the thread that stays, by name: what is given and what is answered. Both sides take their types
 * from here, so a new question is one more function. Answers are small: what crosses threads is copied on both sides.
 */
export function answersFor(
  db: Db,
  { tell = () => undefined, outdated, hold, manner, pace }: Surroundings = {},
) {
  const engines = new Engines(db, outdated, pace);
  const findings = new Findings();
  const links = new Links();

  const lists = new Lists(engines, findings, tell);
  const queryPages = new QueryPages(engines);
  const books = new Books(engines);
  const wordings = new Wordings({ engines, lists, links });
  const shifts = new Shifts(engines, queryPages);
  const openings = new OpeningsKept({ engines, lists, shifts, findings, links, books, tell });
  const desks = keptOf<DeskLine[]>(1);
  /** Readings that were looked at; most look at the same few. */
  const pictured = keptOf<PicturedReading>(MOST_PICTURED);
  /** Lists that somebody is in the middle of, so that an edit meanwhile moves nothing in them. */
  const begun = new Map<number, readonly Reading[]>();
  let count = 0;

  const contexts = new Contexts(db);
  /** The context of a question, settled when it is put. `until` is a day up to which it asks for figures. */
  const contextOf = (siteId: number, asOf?: Day | null, until?: Day | null) => {
    const { learning, behind } = manner?.() ?? HERE;
    const context = contexts.of(siteId, asOf ?? null, learning);
    // Days that are not shown yet would look like days without figures.
    if (behind && until != null && until > (context?.lastReadable ?? until)) throw new Behind();
    return context;
  };
  const all = (siteId: number, wish: SpanWish = {}): readonly Reading[] => {
    const context = contextOf(siteId);
    return context ? readChanges(context, engines, wish) : [];
  };
  const one = (changeId: number, wish: ReadingWish) => {
    const change = findChange(db, changeId);
    const context = change && contextOf(change.siteId, wish.asOf);
    return change && context ? { context, reading: readChange(context, engines, change, wish) } : null;
  };

  return {
    /** The reading of one change; null where it is gone. */
    reading: ({ changeId, wish }: OfSite & { changeId: number; wish: ReadingWish }): Reading | null =>
      one(changeId, wish)?.reading ?? null,

    /** The reading of one change with what its picture shows; null where it is gone. */
    picturedReading: (asked: OfSite & { changeId: number; wish: ReadingWish }): PicturedReading | null => {
      const change = findChange(db, asked.changeId);
      const context = change && contextOf(change.siteId, asked.wish.asOf);
      if (!change || !context) return null;
      return pictured(context, JSON.stringify([change.id, asked.wish]), () => {
        const reading = readChange(context, engines, change, asked.wish);
        return { reading, picture: pictureOf(context, engines, reading) };
      });
    },

    /** Begins a list of the readings of all changes of a site, newest first, which stays as it is until it is ended. */
    beginList: ({ siteId, wish }: OfSite & { wish: SpanWish }): number => {
      begun.set(++count, all(siteId, wish));
      return count;
    },

    /** Some readings of a list that was begun. */
    partOfList: ({ list, from, to }: OfSite & { list: number; from: number; to: number }): SomeReadings => {
      const readings = begun.get(list) ?? [];
      return { readings: readings.slice(from, to), more: to < readings.length };
    },

    endList: ({ list }: OfSite & { list: number }): boolean => begun.delete(list),

    /** Holds the figures as they are shown, just before others count. */
    hold: ({ siteId }: OfSite): boolean => {
      hold?.(siteId);
      return true;
    },

    /** Works out all that most screens need, so that whoever asks first does not wait for it. */
    prepare: async ({ siteId }: OfSite): Promise<boolean> => {
      const context = contextOf(siteId);
      if (!context) return false;
      books.of(context);
      const { known, site } = context;
      const engine = known && engines.engine(site, known);
      // Changes that are logged by and by are read over some whole weeks, then over all of their days.
      for (let days = 7; days <= site.windowDays; days += 7) {
        await othersFirst();
        engine?.learn({ settlingDays: site.settlingDays, days }, { looks: days === site.windowDays });
      }
      for (const subject of LIST_SUBJECTS) {
        await othersFirst();
        const wish = listWish(context, subject, listQuerySchema.parse({}));
        if (wish && typeof wish !== 'string') lists.list(context, wish);
      }
      await openings.part(context, { span: null, kind: null, pageId: null, from: 0, limit: 1 });
      return true;
    },

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

    /** A subject over two spans; null where the site is gone or has no figures. */
    comparison: ({ siteId, wish, asOf }: { siteId: number; wish: SubjectWish; asOf: Day | null }) => {
      const context = contextOf(siteId, asOf, wish.after.lastDay);
      return context && compareSubject(context, engines, wish);
    },

    /** Some lines of a list of pages, queries or pairs; null where the site is gone or has no figures. */
    list: ({ siteId, wish }: { siteId: number; wish: ListWish }): ListAnswer | null => {
      const context = contextOf(siteId, null, wish.spans.now.lastDay);
      return context && lists.list(context, wish);
    },

    /** Some openings of a site, the best first; null where the site is gone or has no figures. */
    openings: async (asked: { siteId: number; wish: OpeningsWish }): Promise<OpeningsPart | null> => {
      const context = contextOf(asked.siteId, null, asked.wish.span?.lastDay);
      return context && openings.part(context, asked.wish);
    },

    /** One opening with what its pane shows; null where it is no longer one. */
    opening: async (asked: { siteId: number; key: string }): Promise<OpeningDetail | null> => {
      const context = contextOf(asked.siteId);
      return context && openings.detail(context, asked.key);
    },

    /** What something brought day by day; null where the site is gone or has no figures. */
    days: ({ siteId, wish }: { siteId: number; wish: DaysWish }): SubjectDays | null => {
      const context = contextOf(siteId);
      return context && subjectDays(context, { engines, queryPages }, wish);
    },

    /** What links to a page, and what could, with the pages; null where the site is gone or the page was not fetched. */
    links: ({ siteId, pageId }: { siteId: number; pageId: number }): LinksSeen | null => {
      const context = contextOf(siteId);
      return context && linksSeen(context, links, pageId);
    },

    /** What a result page has in common; null where the site has none of that number. */
    wording: async (asked: { siteId: number; wish: WordingWish }): Promise<WordingSeen | null> => {
      const context = contextOf(asked.siteId);
      return context && wordings.of(context, asked.wish);
    },

    /** Drafts held against a result page; null where the site has none of that number. */
    drafts: async (asked: {
      siteId: number;
      wish: Parameters<Wordings['drafts']>[1];
    }): Promise<DraftReport[] | null> => {
      const context = contextOf(asked.siteId);
      return context && wordings.drafts(context, asked.wish);
    },

    /** Which of some pages led for a query, day by day. */
    led: (asked: { siteId: number; query: string; pageIds: readonly number[]; span: Span }): Led[] => {
      const context = contextOf(asked.siteId);
      return context ? ledFor(context, asked.query, asked.pageIds, asked.span) : [];
    },

    /** When the level of something shifted, and what happened near; null where the site is gone or has no figures. */
    shifts: ({ siteId, wish }: { siteId: number; wish: ShiftWish }): ShiftSeen[] | null => {
      const context = contextOf(siteId);
      return context && shifts.of(context, wish);
    },

    /** The lines of a sheet of some pages; null where the site is gone or has no figures. */
    sheet: (asked: { siteId: number; pageIds: readonly number[]; spans: ListSpans }): SheetLine[] | null => {
      const context = contextOf(asked.siteId, null, asked.spans.now.lastDay);
      return context && sheetLines(context, { engines, lists }, asked.pageIds, asked.spans);
    },

    /** The ids of the pages that a list finds. */
    found: ({ siteId, wish }: { siteId: number; wish: ListWish }): readonly number[] => {
      const context = contextOf(siteId, null, wish.spans.now.lastDay);
      return context ? lists.found(context, wish) : [];
    },

    /** What is known of pages that are thought of for a round; none where the site is gone. */
    roundCandidates: (asked: { siteId: number; pages: readonly PageRef[] }): Candidate[] => {
      const context = contextOf(asked.siteId);
      return context ? roundCandidates(context, engines, asked.pages) : [];
    },

    /** What pages could show as a round; null where the site is gone. */
    roundPlan: ({ siteId, wish }: { siteId: number; wish: PlanWish }): RoundPlan | null => {
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

    /** What a report says, as its figures stand now; null where it or its site is gone, or there are no figures. */
    report: ({ reportId }: OfSite & { reportId: number }): ReportContent | null => {
      const found = findReport(db, reportId);
      const context = found && contextOf(found.siteId);
      return found && context && buildReport(context, { engines, queryPages, books }, found);
    },

    /** A single reading as a report of one page; null where it is gone, or there are no figures. */
    readingReport: ({ changeId }: OfSite & { changeId: number }): ReportContent | null => {
      const change = findChange(db, changeId);
      const context = change && contextOf(change.siteId);
      return change && context && readingReport(context, { engines, queryPages, books }, change);
    },

    /** A round as a report of a page or two; null where it is gone, or there are no figures. */
    roundReport: ({ roundId }: OfSite & { roundId: number }): ReportContent | null => {
      const found = findRound(db, roundId);
      const context = found && contextOf(found.siteId);
      return found && context && roundReport(context, { engines, queryPages, books }, found);
    },

    /** The working of a reading as sheets of formulas; null where it is gone, or there is nothing to work out. */
    readingWorking: (
      asked: OfSite & { changeId: number; wish: ReadingWish & { measure?: Measure | null } },
    ): WorkSheet[] | null => {
      const change = findChange(db, asked.changeId);
      const context = change && contextOf(change.siteId, asked.wish.asOf);
      return change && context && readingWorking(context, engines, change, asked.wish);
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

    /** The changes that plainly brought a drop before their days are over, and since when. */
    plainDrops: ({ siteId }: OfSite): (readonly [changeId: number, since: Day])[] => plainDrops(all(siteId)),

    /** What is due on a site; none where it is gone. */
    desk: ({ siteId }: OfSite): readonly DeskLine[] => {
      const context = contextOf(siteId);
      if (!context) return [];
      const drops = new Map(plainDrops(readChanges(context, engines)));
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

/** What is asked of a site says so: it is asked of the thread that has its figures. */
export type OfSite = { readonly siteId: number };

/** Learned where it is asked, from everything as it stands. */
const HERE: Manner = { learning: 'here', behind: false };

type Answers = ReturnType<typeof answersFor>;

/** What is asked and answered under each name. */
export type Questions = {
  [K in keyof Answers]: { asked: Parameters<Answers[K]>[0]; answer: Awaited<ReturnType<Answers[K]>> };
};
export type QuestionName = keyof Questions;

/** A question under a number, and its answer under the same. */
export type Question<K extends QuestionName = QuestionName> = {
  [N in K]: {
    readonly number: number;
    readonly name: N;
    readonly asked: Questions[N]['asked'];
    readonly who: Who;
  };
}[K];
export type Answer = { readonly number: number } & (
  | { readonly answer: Questions[QuestionName]['answer'] }
  | { readonly failure: string }
  /** It has to wait for the next generation. */
  | { readonly behind: true }
);
/** What comes out of the thread: answers, how far something has come, and that a next generation is wanted. */
export type Message = Answer | { readonly progress: Progress } | { readonly outdated: Outdated };
/** What a next generation is wanted for. */
export type Outdated = 'figures' | 'changes';

type Handlers = {
  [K in QuestionName]: (
    asked: Questions[K]['asked'],
  ) => Questions[K]['answer'] | Promise<Questions[K]['answer']>;
};

/** What is answered where something went wrong. */
export function failed(number: number, error: unknown): Answer {
  if (error instanceof Behind) return { number, behind: true };
  return { number, failure: error instanceof Error ? (error.stack ?? error.message) : String(error) };
}

/** Answers a question; what goes wrong is answered too. Throws Unlearned. */
export async function answerTo<K extends QuestionName>(
  answers: Handlers,
  { number, name, asked }: Pick<Question<K>, 'number' | 'name' | 'asked'>,
): Promise<Answer> {
  try {
    return { number, answer: await answers[name](asked) };
  } catch (error) {
    if (error instanceof Unlearned) throw error;
    return failed(number, error);
  }
}
