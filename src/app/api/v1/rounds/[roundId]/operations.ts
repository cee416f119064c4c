import { setRoundDeleted } from '@/store/rounds/rounds';
import { toJson } from '@/core/model/json';
import { roundJson } from '@/core/model/roundJson';
import { answer, empty, operation } from '../../doorway';

export const GET = operation(
  {
    summary: 'A round with its pages',
    on: 'round',
    may: 'read',
    answers: { '200': answer('The round', roundJson) },
  },
  ({ round }) => Response.json(toJson(roundJson, round)),
);

export const DELETE = operation(
  {
    summary: 'Delete a round; the changes that its halves were logged as stay',
    on: 'round',
    may: 'edit',
    auditAction: 'deleted a round',
    answers: { '204': empty('Deleted') },
  },
  async ({ db, round, guard }) => {
    await setRoundDeleted(db, round.id, true, guard);
    return new Response(null, { status: 204 });
  },
);
