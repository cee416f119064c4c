import { answer, operation } from '../../doorway';
import { snapshotJson } from '../../schemas';
import { snapshotToJson } from '../../serialise';

export const GET = operation(
  {
    summary: 'One snapshot',
    on: 'snapshot',
    may: 'read',
    answers: { '200': answer('The snapshot', snapshotJson) },
  },
  ({ snapshot, page }) => Response.json(snapshotToJson(snapshot, page)),
);
