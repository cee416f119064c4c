import { z } from 'zod';
import { newChangeSchema } from '@/core/model/change';
import { addChange } from '@/store/ledger/changes';
import { listChanges } from '@/store/ledger/findChanges';
import { Problem } from '@/app/problem';
import { changeJson, loggedChangeJson } from '@/core/model/changeJson';
import { toJson } from '@/core/model/json';
import { twinCautions } from '@/services/pages/twins';
import { SiteContext } from '@/services/site/siteContext';
import { answer, operation } from '../../../doorway';

export const GET = operation(
  {
    summary: 'List the changes, newest first',
    on: 'site',
    may: 'read',
    answers: { '200': answer('The changes', z.array(changeJson)) },
  },
  ({ db, site }) => Response.json(toJson(z.array(changeJson), listChanges(db, site.id))),
);

export const POST = operation(
  {
    summary: 'Log a change',
    on: 'site',
    may: 'log',
    auditAction: 'logged a change',
    headers: z.object({
      'Idempotency-Key': z.string().max(255).optional().meta({
        description: 'A name for this request: sent again under it, it logs nothing twice.',
      }),
    }),
    body: newChangeSchema,
    answers: { '201': answer('The change', loggedChangeJson) },
  },
  async ({ db, site, body, request }) => {
    const change = await addChange(db, site, body, idempotencyKey(request));
    return Response.json(
      toJson(loggedChangeJson, {
        change: change,
        cautions: twinCautions(new SiteContext(db, site), change.pages),
      }),
      {
        status: 201,
        headers: { Location: `/api/v1/changes/${change.id}` },
      },
    );
  },
);

const LONGEST_KEY = 255;

/** The name that a request gives itself, under which asking twice does a thing once; null without. Throws Problem. */
function idempotencyKey(request: Request): string | null {
  const key = request.headers.get('idempotency-key')?.trim();
  if (!key) return null;
  if (key.length > LONGEST_KEY)
    throw new Problem(422, `An Idempotency-Key has at most ${LONGEST_KEY} characters.`);
  return key;
}
