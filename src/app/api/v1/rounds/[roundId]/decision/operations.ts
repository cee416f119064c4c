import { roundDecisionSchema } from '@/core/model/round';
import { decideRound } from '@/services/rounds/recordWork';
import { findRound } from '@/store/rounds/rounds';
import { toJson } from '@/core/model/json';
import { roundJson } from '@/core/model/roundJson';
import { answer, operation } from '../../../doorway';

export const PUT = operation(
  {
    summary: 'Record whether the round goes on, or take that back',
    on: 'round',
    may: 'edit',
    auditAction: 'decided on a round',
    body: roundDecisionSchema,
    answers: { '200': answer('The round', roundJson) },
  },
  async ({ db, round, body, guard }) => {
    await decideRound(db, round.id, body, guard);
    return Response.json(toJson(roundJson, findRound(db, round.id)!));
  },
);
