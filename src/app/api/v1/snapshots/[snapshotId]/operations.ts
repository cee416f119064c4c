import { toJson } from '@/core/model/json';
import { snapshotJson } from '@/core/model/snapshotJson';
import { answer, operation } from '../../doorway';

export const GET = operation(
  {
    summary: 'One snapshot',
    on: 'snapshot',
    may: 'read',
    answers: { '200': answer('The snapshot', snapshotJson) },
  },
  ({ snapshot, page }) => Response.json(toJson(snapshotJson, { snapshot, page })),
);
