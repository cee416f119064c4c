import { eq } from 'drizzle-orm';
import type { ResultsAccessInput } from '../../core/model/resultsAccess';
import type { Db } from '../database';
import { site } from '../schema';
import { write } from '../write';

/** Where the result pages of a site's searches are asked for; an empty address is nowhere. */
export type ResultsAccess = { readonly address: string; readonly token: string; readonly country: string };

export function resultsAccess(db: Db, siteId: number): ResultsAccess {
  const { resultsAddress, resultsToken, resultsCountry } = site;
  return (
    db
      .select({ address: resultsAddress, token: resultsToken, country: resultsCountry })
      .from(site)
      .where(eq(site.id, siteId))
      .get() ?? { address: '', token: '', country: '' }
  );
}

export async function saveResultsAccess(
  db: Db,
  siteId: number,
  { address, token, country }: ResultsAccessInput,
): Promise<void> {
  const values = {
    ...{ resultsAddress: address, resultsCountry: country },
    ...(token === null ? {} : { resultsToken: token }),
  };
  await write(db, () => db.update(site).set(values).where(eq(site.id, siteId)).run());
}
