import { z } from 'zod';
import { AddressError, writtenAddress } from '@/core/address/address';
import { COMPARED_TEXTS } from '@/core/wording/resultPage';
import { ask } from '@/app/ask';
import { Problem } from '@/app/problem';
import { toJson } from '@/core/model/json';
import { wordingJson } from '@/core/wording/wordingJson';
import { answer, operation, problem } from '../../../doorway';

const querySchema = z.object({
  title: z
    .string()
    .trim()
    .max(2000)
    .optional()
    .meta({ description: 'A title of one’s own that is thought of; that which is shown where absent.' }),
  own: z.string().trim().max(2048).optional().meta({ description: 'The address of one’s own page.' }),
  of: z.enum(COMPARED_TEXTS).default('title').meta({ description: 'What is compared.' }),
});

export const GET = operation(
  {
    summary: 'What the results have in common, and what one’s own title says of it',
    on: 'resultPage',
    may: 'read',
    query: querySchema,
    answers: {
      '200': answer('The wording', wordingJson),
      '400': problem('The address of one’s own page is none of the site’s.'),
    },
  },
  async ({ site, resultPage, query: { title, own, of } }) => {
    if (own) refuseForeign(own, site.address);
    const wish = { resultPageId: resultPage.id, of, text: title || null, ownAddress: own || null };
    const seen = await ask('wording', { siteId: site.id, wish });
    if (!seen) throw new Problem(404, 'There is no such result page.');
    return Response.json(toJson(wordingJson, seen.wording));
  },
);

/** Throws Problem where an address is none of the site's. */
function refuseForeign(own: string, site: string): void {
  try {
    writtenAddress(own, site);
  } catch (error) {
    if (!(error instanceof AddressError)) throw error;
    throw new Problem(400, error.message, [{ field: 'own', message: error.message }]);
  }
}
