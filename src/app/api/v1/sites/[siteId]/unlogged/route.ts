import { unloggedOn } from '@/store/evidence/snapshots';
import { answer, operation } from '../../../doorway';
import { unloggedJson } from '../../../schemas';
import { unloggedToJson } from '../../../serialise';

export const GET = operation(
  {
    summary: 'List what was edited on watched pages and nobody logged, the last first',
    on: 'site',
    may: 'read',
    answers: { '200': answer('The differences', unloggedJson) },
  },
  ({ db, site }) => Response.json({ items: unloggedOn(db, site).map(unloggedToJson) }),
);
