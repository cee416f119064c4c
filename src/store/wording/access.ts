import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { lineText } from '../../core/model/fields';
import type { Db } from '../database';
import { site } from '../schema';
import { write } from '../write';

/** Where the result pages of a site's searches are asked for; an empty address is nowhere. */
export type ResultsAccess = { readonly address: string; readonly token: string; readonly country: string };

export const resultsAccessSchema = z.strictObject({
  address: z
    .string()
    .trim()
    .max(2048)
    .refine(
      (text) => text === '' || (/^https?:\/\//i.test(text) && URL.canParse(text)),
      'An address begins with https://.',
    ),
  /** Null keeps the one that is there. */
  token: lineText().max(500).nullable(),
  country: lineText().toLowerCase().max(40, 'At most 40 characters.'),
});

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
  { address, token, country }: z.output<typeof resultsAccessSchema>,
): Promise<void> {
  const values = {
    ...{ resultsAddress: address, resultsCountry: country },
    ...(token === null ? {} : { resultsToken: token }),
  };
  await write(db, () => db.update(site).set(values).where(eq(site.id, siteId)).run());
}
