import { newRoundSchema } from '../../src/core/model/round';
import type { Site } from '../../src/core/model/site';
import { Engines } from '../../src/services/site/engines';
import { beginRound, pagesNamed } from '../../src/services/rounds/begin';
import { roundCandidates } from '../../src/services/rounds/candidates';
import { SiteContext } from '../../src/services/site/siteContext';
import type { Db } from '../../src/store/database';

/** Begins a round of pages that the site has already, and gives its number. */
export async function aRound(
  db: Db,
  site: Site,
  pages: readonly string[],
  over: Readonly<Record<string, unknown>> = {},
): Promise<number> {
  const given = newRoundSchema.parse({ name: 'Round', kind: 'title-rewrite', pages, draw: 'all', ...over });
  const named = pagesNamed(db, site, given.pages).map(({ page }) => page);
  const candidates = roundCandidates(new SiteContext(db, site), new Engines(db), named);
  return beginRound(db, site, given, candidates);
}
