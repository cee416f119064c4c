import { setTimeout as pause } from 'node:timers/promises';
import { LRUCache } from 'lru-cache';
import type { Reading } from '../../core/reading/readingModel';
import type { BookSource, Scorebook } from '../../core/scorebook/book';
import type { ScoredBy } from '../../core/scorebook/scorebook';
import type { Progress } from '../../services/site/turns';
import type { SpanQuery } from '../../services/reading/readingSpans';
import { startThread } from '../thread';
import type { QuestionName, Questions } from './question';
import type { Who } from './generation';
import { Generations } from './generations';
import { BEHIND } from './thread';

/** Sites whose figures are kept in memory, each in a thread of its own. */
const MOST_SITES = 8;
/** Short-lived arrays hang on objects of this room; a small one lets them go soon. */
const YOUNG_MEGABYTES = 12;

type Shared = { readonly sites: LRUCache<number, Generations>; turn: Promise<unknown> };

// One set of threads a process, wherever this module is loaded from.
const process_ = globalThis as { __tallyQuestions?: Shared };

function shared(): Shared {
  return (process_.__tallyQuestions ??= {
    sites: new LRUCache({ max: MOST_SITES, dispose: (site) => site.end() }),
    turn: Promise.resolve(),
  });
}

function generationsOf(siteId: number): Generations {
  const { sites } = shared();
  const known = sites.get(siteId);
  if (known) return known;
  const made = new Generations(siteId, startedFor, inTurn);
  sites.set(siteId, made);
  return made;
}

const startedFor = (siteId: number) =>
  startThread('questionsWorker', {
    workerData: { siteId },
    resourceLimits: { maxYoungGenerationSizeMb: YOUNG_MEGABYTES },
  });

/** Long work of several sites, one after another. */
function inTurn(work: () => Promise<void>): Promise<void> {
  const done = shared().turn.then(work);
  shared().turn = done.catch(() => undefined);
  return done;
}

/** Asks one of the questions of `answers.ts` for somebody: of the thread that has the figures of its site. */
export function ask<K extends QuestionName>(
  name: K,
  asked: Questions[K]['asked'],
  who: Who = null,
): Promise<Questions[K]['answer']> {
  return generationsOf(asked.siteId).ask(name, asked, who);
}

/**
 * Saves the verdicts of a site's changes whose after spans have ended, now that figures have arrived.
 * Sites in use stay in memory: where there is no room for another, its thread ends afterwards.
 */
export async function saveVerdicts(siteId: number): Promise<void> {
  const { sites } = shared();
  const passing = !sites.has(siteId) && sites.size >= MOST_SITES;
  const site = passing ? new Generations(siteId, startedFor, inTurn) : generationsOf(siteId);
  await inTurn(async () => void (await site.ask('saveVerdicts', { siteId }, 'nobody')));
  if (passing) site.end();
}

/** The scorebook of one site or of several together. */
export async function askScorebook(
  siteIds: readonly number[],
  by: ScoredBy,
  who: Who = null,
): Promise<Scorebook> {
  const [first, ...rest] = siteIds;
  if (first === undefined) throw new RangeError('A scorebook is of one site at least.');
  const sources = await Promise.all(rest.map((siteId) => ask('bookSource', { siteId }, who)));
  const others = sources.filter((source): source is BookSource => source !== null);
  return ask('scorebook', { siteId: first, by, others }, who);
}

/** What somebody waits for on a site, and how far it has come; null where nothing is under way. */
export function underWay(siteId: number): Progress | null {
  return shared().sites.get(siteId)?.underWay ?? null;
}

/** Whether newer figures of a site came in than those that most people are shown. */
export function isBehind(siteId: number): boolean {
  return shared().sites.peek(siteId)?.behind ?? false;
}

/** So long figures that are about to count wait for those who show the ones before. */
const LONGEST_WAIT_MS = 2000;

/**
 * Has what is shown of a site kept as it is, just before other figures count, so that nobody waits while they are worked in. Where a thread
 * is in the middle of something long, it is done without.
 */
export async function holdFigures(siteId: number): Promise<void> {
  const held = shared().sites.peek(siteId)?.hold();
  await Promise.race([held, pause(LONGEST_WAIT_MS, undefined, { ref: false })]).catch(() => undefined);
}

/** So many readings cross from one thread to the other at a time: few enough that others get their turn in between. */
const AT_ONCE = 100;

/**
 * The readings of all changes of a site, newest change first, some at a time, without what only single readings have. They
 * are those of the moment in which the list was begun, whatever is edited meanwhile.
 */
export async function* askReadings(
  siteId: number,
  wish: SpanQuery = {},
  who: Who = null,
  generations: Generations = generationsOf(siteId),
): AsyncGenerator<readonly Reading[]> {
  const { answer: list, thread } = await generations.askAndHold('beginList', { siteId, wish }, who);
  try {
    for (let from = 0, more = true; more; from += AT_ONCE) {
      const part = await thread.ask('partOfList', { siteId, list, from, to: from + AT_ONCE }, 'nobody');
      if (part === BEHIND) throw new Error('A list that was begun waits for nothing.');
      more = part.more;
      yield part.readings;
    }
  } finally {
    await thread.ask('endList', { siteId, list }, 'nobody').finally(() => thread.letGo());
  }
}
