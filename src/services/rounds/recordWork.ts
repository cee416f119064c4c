import type { z } from 'zod';
import { isoDay, parseIsoDay, type Day } from '../../core/calendar/day';
import { newChangeSchema } from '../../core/model/change';
import {
  pagesOf,
  type Half,
  type madeSchema,
  type NewRoundDecision,
  type pageStepSchema,
  type Round,
  type RoundPage,
  type roundTextsSchema,
} from '../../core/model/round';
import type { Site } from '../../core/model/site';
import { turnDay } from '../../core/rounds/reading';
import { today } from '../../store/clock';
import type { Db } from '../../store/database';
import { InputError } from '../../store/inputError';
import { insertChange, updateChange } from '../../store/ledger/changes';
import { findChange } from '../../store/ledger/findChanges';
import {
  editRound,
  findRound,
  setHalfChange,
  setPageStep,
  setPageText,
  setRoundDecision,
} from '../../store/rounds/rounds';
import type { Guard } from '../../store/write';

/**
 * Records that pages of a half were changed on a day; the ledger then has the half as one change.
 * Throws InputError.
 */
export async function recordMade(
  db: Db,
  site: Site,
  id: number,
  { half, day: text, pageIds }: z.output<typeof madeSchema>,
  guard?: Guard,
): Promise<void> {
  const day = parseIsoDay(text) as Day;
  if (day > today(site.timeZone) + 1) throw new InputError('day', 'That day is still to come.');
  await editRound(
    db,
    id,
    (was) => {
      const there = pagesOf(was, half).map(({ page }) => page.id);
      if (there.length === 0) throw new InputError('half', 'This round has no such half.');
      const ids = pageIds ?? there;
      if (ids.some((one) => !there.includes(one)))
        throw new InputError('pageIds', 'One of the pages is not in this half.');
      setPageStep(db, id, ids, 'made', day);
      logHalf(db, site, id, half);
    },
    guard,
  );
}

/** Takes back that some pages were made. Throws InputError. */
export async function takeBackMade(
  db: Db,
  site: Site,
  id: number,
  pageIds: readonly number[],
): Promise<void> {
  await editRound(db, id, (was) => {
    setPageStep(db, id, pageIds, 'made', null);
    for (const half of ['first', 'second'] as const)
      if (pagesOf(was, half).some(({ page }) => pageIds.includes(page.id))) logHalf(db, site, id, half);
  });
}

/** Records a step of some pages, or takes it back. */
export async function recordPageStep(
  db: Db,
  id: number,
  { pageIds, step, day }: z.output<typeof pageStepSchema>,
): Promise<void> {
  await editRound(db, id, () => {
    setPageStep(db, id, pageIds, step, day === null ? null : parseIsoDay(day));
  });
}

/** Keeps new texts and persons of pages. What was logged already is logged anew with them. */
export async function keepTexts(
  db: Db,
  site: Site,
  id: number,
  texts: z.output<typeof roundTextsSchema>,
): Promise<void> {
  await editRound(db, id, (was) => {
    const known = new Map(was.pages.map((one) => [one.page.id, one]));
    const changed = texts.flatMap(({ pageId, newText, person: given }) => {
      const one = known.get(pageId);
      const person = given === undefined ? (one?.person ?? null) : given || null;
      return one && (one.newText !== newText || one.person !== person) ? [{ pageId, newText, person }] : [];
    });
    for (const { pageId, ...text } of changed) setPageText(db, id, pageId, text);
    for (const half of ['first', 'second'] as const)
      if (
        changed.some(
          ({ pageId }) => known.get(pageId)!.half === half && known.get(pageId)!.steps.made !== undefined,
        )
      )
        logHalf(db, site, id, half);
  });
}

/** Records what was decided of a round, or takes it back. */
export async function decideRound(
  db: Db,
  id: number,
  decision: NewRoundDecision,
  guard?: Guard,
): Promise<void> {
  await editRound(db, id, () => setRoundDecision(db, id, decision), guard);
}

/**
 * Updates the change of a half to the pages that are made. Must run in an edit of the experiment.
 */
function logHalf(db: Db, site: Site, id: number, half: Half): void {
  const round = findRound(db, id)!;
  const made = pagesOf(round, half).filter(({ steps }) => steps.made !== undefined);
  const day = turnDay(made);
  const known = round.changes[half];
  const there = known === undefined ? null : findChange(db, known);
  if (day === null) {
    // Nothing of it is made any more: what was logged is a plan again.
    if (there) updateChange(db, site, there.id, { planned: true });
    return;
  }
  const fields = {
    day: isoDay(day),
    pages: made.map(({ written }) => written),
    parts: made.flatMap(partsOf(round)),
    planned: false,
  };
  if (there) updateChange(db, site, there.id, fields);
  else
    setHalfChange(
      db,
      id,
      half,
      insertChange(db, site, newChangeSchema.parse({ ...changeOf(round, half), ...fields })),
    );
}

const partsOf =
  ({ kind }: Round) =>
  ({ written, oldText, newText }: RoundPage) =>
    newText === null ? [] : [{ kind, page: written, oldText, newText }];

/** What the change of a half says besides its pages and its day. */
function changeOf(round: Round, half: Half): object {
  const { name, kind, windowDays, settlingDays, expectation, person, draw } = round;
  return {
    title: draw === 'all' ? name : `${name}: ${half} half`,
    ...{ kind, windowDays, settlingDays, person },
    expectation: expectation && {
      ...expectation,
      reviewDay: expectation.reviewDay === null ? null : isoDay(expectation.reviewDay),
    },
  };
}
