import { eq } from 'drizzle-orm';
import type { Db } from '../database';
import { rivalPage } from '../schema';
import { timestamp, write } from '../write';

/** What a page of the results says, as far as it is compared. */
export type RivalFacts = {
  readonly h1: readonly string[];
  readonly headings: number;
  readonly words: number;
  readonly types: readonly string[];
};

/** What came of fetching the page of a result: what it says, or why it could not be had. */
export type Rival = { readonly rank: number; readonly at: string } & (
  { readonly facts: RivalFacts; readonly failure: null } | { readonly facts: null; readonly failure: string }
);

/** The pages of a result page that were fetched, by rank. */
export function rivalsOf(db: Db, resultPageId: number): Map<number, Rival> {
  const rows = db.select().from(rivalPage).where(eq(rivalPage.resultPageId, resultPageId)).all();
  return new Map(
    rows.map(({ rank, at, facts, failure }) => [
      rank,
      facts === null
        ? { rank, at, facts: null, failure: failure ?? '' }
        : { rank, at, facts: JSON.parse(facts) as RivalFacts, failure: null },
    ]),
  );
}

/** Keeps what came of fetching the page of a result. */
export async function keepRival(
  db: Db,
  resultPageId: number,
  rank: number,
  found: { readonly facts: RivalFacts } | { readonly failure: string },
): Promise<void> {
  const values = {
    at: timestamp(),
    facts: 'facts' in found ? JSON.stringify(found.facts) : null,
    failure: 'failure' in found ? found.failure : null,
  };
  await write(db, () =>
    db
      .insert(rivalPage)
      .values({ resultPageId, rank, ...values })
      .onConflictDoUpdate({ target: [rivalPage.resultPageId, rivalPage.rank], set: values })
      .run(),
  );
}
