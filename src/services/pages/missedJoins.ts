import {
  rulesJoining,
  spellingsApart,
  spellingsText,
  SPELLINGS,
  twinKey,
  type Spelling,
} from '../../core/address/twins';
import type { AddressRules } from '../../core/model/addressRules';
import type { Site } from '../../core/model/site';
import { count } from '../../core/words/format';
import type { SOURCES } from '../../store/addresses/joins';
import { pagesOfImport, pagesOfSource, sourceOf } from '../../store/addresses/joins';
import type { Db } from '../../store/database';
import type { ImportRow } from '../../store/figures/imports';

/**
 * That most URLs of a file differ from the other source by spelling alone, and the rules that would
 * join them.
 */
export type MissedJoins = { readonly sentence: string; readonly rules: AddressRules };

/**
 * Whether most pages of an imported file are missing in the other source (search or landing-page
 * figures), most of them only by spelling; null if not.
 */
export function missedJoins(db: Db, site: Site, row: ImportRow): MissedJoins | null {
  const source = row.state === 'done' && row.grain !== null ? sourceOf(row.grain) : null;
  if (source === null) return null;
  const other = source === 'search' ? 'analytics' : 'search';
  const theirs = pagesOfSource(db, site.id, other);
  const own = pagesOfImport(db, row.id);
  if (theirs.size === 0) return null;
  const missing = own.filter((page) => !theirs.has(page));
  if (missing.length * 2 <= own.length) return null;
  const byKey = new Map([...theirs].map((page) => [twinKey(page), page]));
  const pairs = missing.flatMap((page) => {
    const twin = byKey.get(twinKey(page));
    const spellings = twin === undefined ? null : spellingsApart(page, twin);
    return spellings ? [{ page, twin: twin!, spellings }] : [];
  });
  if (pairs.length * 2 <= missing.length) return null;
  const spellings = SPELLINGS.filter((one) => pairs.some((pair) => pair.spellings.includes(one)));
  const wanted = mostCommon(pairs.map((pair) => pair.spellings)) ?? spellings;
  const joined = pairs.filter((pair) => pair.spellings.every((one) => wanted.includes(one)));
  const verb = joined.length === 1 ? 'differs' : 'differ';
  const searched = joined.map((pair) => (source === 'search' ? pair.page : pair.twin));
  return {
    sentence: `${count(joined.length)} of ${count(own.length)} ${PAGES[source]} ${verb} from ${PAGES[other]} only by ${spellingsText(wanted)}.`,
    rules: rulesJoining(site.rules, wanted, searched),
  };
}

const PAGES: Record<keyof typeof SOURCES, string> = { search: 'search pages', analytics: 'landing pages' };

/** The spellings that most pairs differ by. */
function mostCommon(all: readonly (readonly Spelling[])[]): readonly Spelling[] | null {
  const counts = new Map<string, number>();
  for (const one of all) counts.set(one.join(), (counts.get(one.join()) ?? 0) + 1);
  const [most] = [...counts].sort(([, a], [, b]) => b - a);
  return most ? (most[0].split(',') as Spelling[]) : null;
}
