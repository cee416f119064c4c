import { addDays } from '../../core/calendar/day';
import type { PageEvidence } from '../../core/model/evidence';
import type { Site } from '../../core/model/site';
import { today } from '../../store/clock';
import type { Db } from '../../store/database';
import { listPages } from '../../store/addresses/pages';
import { keepSnapshot, setWatched } from '../../store/evidence/snapshots';

/** One page in so many differs from the day before. */
const DIFFERS = 10;

/** Has all pages of a site watched, with two snapshots of those that differ and one of the others. */
export async function addSnapshots(db: Db, site: Site): Promise<void> {
  const pages = listPages(db, site.id);
  await setWatched(
    db,
    site.id,
    pages.map(({ id }) => id),
    true,
  );
  for (const [i, { id, address }] of pages.entries()) {
    const evidence = evidenceOf(address, `Page ${i}`);
    await keepSnapshot(db, site.id, id, evidence, addDays(today(), -2));
    const again = i % DIFFERS === 0 ? { ...evidence, title: `Page ${i}, reworded` } : evidence;
    await keepSnapshot(db, site.id, id, again, addDays(today(), -1));
  }
}

function evidenceOf(address: string, title: string): PageEvidence {
  const paragraph = 'What there is to know of it, from people who look after forty hives of their own.';
  const headings = Array.from({ length: 12 }, (_, i) => ({ level: i === 0 ? 1 : 2, text: `Part ${i}` }));
  return {
    ...{ status: 200, finalAddress: address, title, description: paragraph, canonical: address },
    ...{ robots: [], headings, structuredData: [{ types: ['Article'], problem: null }] },
    text: headings.map(({ text }) => `${text}\n${Array(8).fill(paragraph).join('\n')}`).join('\n'),
    words: 1550,
    links: Array.from({ length: 60 }, (_, i) => `${address}link-${i}/`),
    ...{ images: 10, imagesWithoutAlt: [], encoding: 'UTF-8', misfits: 0 },
  };
}
