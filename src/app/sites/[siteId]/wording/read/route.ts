import { operation } from '@/app/api/v1/doorway';
import { Problem } from '@/app/problem';
import { MOST_SAVED_BYTES } from '@/core/wording/fromHtml';
import { readResultsInWorker } from '@/jobs/inWorker';

/** Reads results from what was pasted or chosen, so that they can be looked through before they are kept. */
export const POST = operation(
  { summary: 'Read results', on: 'site', may: 'edit', answers: {} },
  async ({ request }) => {
    if (Number(request.headers.get('content-length') ?? 0) > MOST_SAVED_BYTES)
      throw new Problem(413, 'This is larger than 5 MB, and no saved page of results.');
    const bytes = new Uint8Array(await request.arrayBuffer());
    return Response.json(await readResultsInWorker(bytes), { headers: { 'cache-control': 'no-store' } });
  },
);
