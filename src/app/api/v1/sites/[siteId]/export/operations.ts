import { z } from 'zod';
import { archiveFromWorker } from '@/jobs/inWorker';
import { operation } from '../../../doorway';

export const GET = operation(
  {
    summary: 'All of a site as a ZIP: figures as CSV, the rest as JSON, and a manifest with checksums',
    on: 'site',
    may: 'edit',
    answers: {
      '200': {
        description: 'The archive, made while it is sent',
        content: { 'application/zip': { schema: z.string().meta({ format: 'binary' }) } },
      },
    },
  },
  ({ site }) =>
    new Response(archiveFromWorker(site.id), {
      headers: {
        'Content-Type': 'application/zip',
        'Content-Disposition': `attachment; filename="${new URL(site.address).hostname}.zip"`,
        'Cache-Control': 'no-store',
      },
    }),
);
