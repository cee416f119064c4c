import { madeSchema } from '@/core/model/round';
import { recordMade } from '@/services/rounds/recordWork';
import { findRound } from '@/store/rounds/rounds';
import { toJson } from '@/core/model/json';
import { roundJson } from '@/core/model/roundJson';
import { answer, operation } from '../../../doorway';

export const POST = operation(
  {
    summary: 'Say that a half was made; it stands in the ledger as one change',
    on: 'round',
    may: 'edit',
    auditAction: 'recorded a half of a round as made',
    body: madeSchema,
    answers: { '200': answer('The round', roundJson) },
  },
  async ({ db, site, round, body, guard }) => {
    await recordMade(db, site, round.id, body, guard);
    return Response.json(toJson(roundJson, findRound(db, round.id)!));
  },
);
