import { unloggedOn } from '@/store/evidence/snapshots';
import { toJson } from '@/core/model/json';
import { unloggedJson } from '@/core/model/snapshotJson';
import { answer, operation } from '../../../doorway';

export const GET = operation(
  {
    summary: 'List what was edited on watched pages and nobody logged, the last first',
    on: 'site',
    may: 'read',
    answers: { '200': answer('The differences', unloggedJson) },
  },
  ({ db, site }) => Response.json(toJson(unloggedJson, { items: unloggedOn(db, site) })),
);
