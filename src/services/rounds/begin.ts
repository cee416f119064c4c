import { randomInt } from 'node:crypto';
import { parseIsoDay } from '../../core/calendar/day';
import type { PageRef } from '../../core/model/change';
import type { NewRound, RoundPage } from '../../core/model/round';
import { drawnHalves } from '../../core/rounds/draw';
import { likeBlocks } from '../../core/rounds/blocks';
import type { Site } from '../../core/model/site';
import { pageOf } from '../../store/addresses/pages';
import { AddressError } from '../../core/address/address';
import { InputError } from '../../store/inputError';
import type { Db } from '../../store/database';
import { today } from '../../store/clock';
import { addRound, findRound } from '../../store/rounds/rounds';
import { draftsOf } from '../../store/wording/drafts';
import type { Candidate } from './candidates';

const MOST_SEED = 1_000_000;

/** The pages of written URLs, each once. Throws InputError for the URL at fault. */
export function pagesNamed(
  db: Db,
  site: Site,
  addresses: readonly string[],
  field = 'pages',
): { page: PageRef; written: string }[] {
  const seen = new Set<number>();
  return addresses.flatMap((written, i) => {
    const page = pageNamed(db, site, written, `${field}.${i}`);
    return seen.has(page.id) ? [] : (seen.add(page.id), [{ page, written }]);
  });
}

function pageNamed(db: Db, site: Site, written: string, field: string): PageRef {
  try {
    const page = pageOf(db, site, written);
    if (page) return page;
  } catch (error) {
    if (!(error instanceof AddressError)) throw error;
    throw new InputError(field, error.message);
  }
  throw new InputError(field, `${written} is no page of this site that anything is known of.`);
}

/**
 * Starts an experiment: blocks like pages, draws the halves by a stored seed, and freezes what is
 * known of each page. Returns its id. Throws InputError.
 *
 * @param candidates those of its pages
 */
export async function beginRound(
  db: Db,
  site: Site,
  given: NewRound,
  candidates: readonly Candidate[],
): Promise<number> {
  const named = pagesNamed(db, site, given.pages);
  if (given.draw !== 'all' && named.length < 4)
    throw new InputError('pages', 'Two halves need at least two pages each.');
  if (given.followsId !== null && findRound(db, given.followsId)?.siteId !== site.id)
    throw new InputError('followsId', `There is no round ${given.followsId} on this site.`);
  const byId = new Map(candidates.map((one) => [one.page.id, one]));
  const taken = named.findIndex(({ page }) => byId.get(page.id)?.taken === true);
  if (taken !== -1)
    throw new InputError(
      `pages.${taken}`,
      `${named[taken]!.written} ${byId.get(named[taken]!.page.id)!.problem}; a page is in one round at a time.`,
    );
  const seed = given.seed ?? randomInt(1, MOST_SEED);
  const { blockOf, first } = halvesOf(db, site, given, named, byId, seed);
  const openings = openingsByPage(db, site, given);
  const now = today(site.timeZone);
  const pages = named.map(({ page, written }): RoundPage => {
    const { frozen } = byId.get(page.id)!;
    const draft =
      given.kind === 'title-rewrite' || given.kind === 'meta-description'
        ? draftsOf(db, [page.id], given.kind === 'title-rewrite' ? 'title' : 'description')
        : [];
    const oldText =
      given.kind === 'title-rewrite'
        ? frozen.title
        : given.kind === 'meta-description'
          ? frozen.description
          : null;
    return {
      ...{ page, written, frozen, oldText, steps: {}, person: given.person },
      half: first.has(page.id) ? 'first' : 'second',
      block: blockOf.get(page.id) ?? 0,
      newText: draft.findLast(({ text }) => text !== oldText)?.text ?? null,
      opening: openings.get(page.id) ?? null,
    };
  });
  const { name, kind, draw, person, followsId, expectation } = given;
  return addRound(db, {
    ...{ siteId: site.id, name, kind, draw, person, followsId, seed, pages, day: now },
    windowDays: given.windowDays ?? site.windowDays,
    settlingDays: given.settlingDays ?? site.settlingDays,
    expectation: expectation && {
      ...expectation,
      reviewDay: expectation.reviewDay === null ? null : parseIsoDay(expectation.reviewDay),
    },
  });
}

function halvesOf(
  db: Db,
  site: Site,
  { draw, first: chosen }: NewRound,
  named: readonly { page: PageRef }[],
  byId: ReadonlyMap<number, Candidate>,
  seed: number,
): { blockOf: ReadonlyMap<number, number>; first: ReadonlySet<number> } {
  const ids = named.map(({ page }) => page.id);
  if (draw === 'all') return { blockOf: new Map(), first: new Set(ids) };
  if (draw === 'by-hand') {
    const first = new Set(pagesNamed(db, site, chosen, 'first').map(({ page }) => page.id));
    const strange = [...first].find((id) => !ids.includes(id));
    if (strange !== undefined) throw new InputError('first', 'A page goes first that is not in the round.');
    if (first.size < 2 || ids.length - first.size < 2)
      throw new InputError('first', 'Two halves need at least two pages each.');
    return { blockOf: new Map(), first };
  }
  // Pages without a measurable effect are in blocks of their own, so that they don’t pair with
  // others.
  const like = (good: boolean) =>
    likeBlocks(
      ids.flatMap((id) => {
        const one = byId.get(id)!;
        return (one.problem === null) === good ? [one.likeness] : [];
      }),
    );
  const blocks = [...like(true), ...like(false)];
  return {
    blockOf: new Map(blocks.flatMap((block, i) => block.map((id) => [id, i] as const))),
    first: new Set(drawnHalves(blocks, seed).first),
  };
}

function openingsByPage(db: Db, site: Site, { openings }: NewRound) {
  return new Map(
    Object.entries(openings).map(([written, opening]) => [
      pageNamed(db, site, written, 'openings').id,
      opening,
    ]),
  );
}
