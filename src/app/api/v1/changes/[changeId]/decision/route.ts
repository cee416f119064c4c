import { newDecisionSchema } from '@/core/model/steps';
import { recordDecision } from '@/store/ledger/changes';
import { answer, operation } from '../../../doorway';
import { changeJson } from '../../../schemas';
import { changeToJson } from '../../../serialise';

export const PUT = operation(
  {
    summary: 'Record what was decided, or take it back',
    on: 'change',
    may: 'edit',
    did: 'decided on a change',
    body: newDecisionSchema,
    answers: { '200': answer('The change', changeJson) },
  },
  async ({ db, change, body, guard }) =>
    Response.json(changeToJson(await recordDecision(db, change.id, body, guard))),
);
