import type { Reading, SaidThen } from '../../core/reading/readingModel';
import { readingSentence } from '../../core/reading/readingSentence';
import { keepSaid, saidOf, type Said } from '../../store/ledger/completedVerdicts';
import type { SiteContext } from '../site/siteContext';

/**
 * The verdict of a complete reading in a sentence, with its spans and pages; null if it isn’t
 * complete or says nothing.
 */
function saidBy({ change, spans, verdict, net }: Reading, sentence: string, day: Said['day']): Said | null {
  if (!spans.complete || verdict === 'waiting' || net === null) return null;
  const { before, after } = spans;
  const pages = change.pages.map(({ id }) => id).sort((a, b) => a - b);
  const about = [before.firstDay, before.lastDay, after.firstDay, after.lastDay, ...pages].join(' ');
  return { changeId: change.id, about, day, verdict, sentence };
}

const found = (reading: Reading) =>
  readingSentence(reading)
    .found.map(({ text }) => text)
    .join('');

/**
 * Saves the verdicts of a site whose after spans have ended, once each, so that figures revised later
 * can't rewrite what was said then. Called whenever figures have arrived.
 */
export async function saveCompletedVerdicts(
  { db, site, lastReadable }: SiteContext,
  readings: readonly Reading[],
): Promise<void> {
  if (lastReadable === null) return;
  const known = saidOf(db, site.id);
  const fresh = readings.flatMap((reading) => {
    if (!reading.spans.complete) return [];
    const said = saidBy(reading, found(reading), lastReadable);
    return said && known.get(said.changeId)?.about !== said.about ? [said] : [];
  });
  await keepSaid(db, fresh);
}

/** What was said when the days of a reading were over, where it says otherwise now. */
export function saidOtherwise({ db, site, lastReadable }: SiteContext, reading: Reading): SaidThen | null {
  if (lastReadable === null) return null;
  const now = saidBy(reading, found(reading), lastReadable);
  const then = now && saidOf(db, site.id).get(now.changeId);
  if (!then || then.about !== now.about || then.sentence === now.sentence) return null;
  return { day: then.day, verdict: then.verdict, sentence: then.sentence };
}
