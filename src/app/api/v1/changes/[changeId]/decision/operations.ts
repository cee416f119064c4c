import { newDecisionSchema } from '@/core/model/steps';
import { recordDecision } from '@/store/ledger/changes';
import { changeJson } from '@/core/model/changeJson';
import { toJson } from '@/core/model/json';
import { answer, operation } from '../../../doorway';

export const PUT = operation(
  {
    summary: 'Record what was decided, or take it back',
    on: 'change',
    may: 'edit',
    auditAction: 'decided on a change',
    body: newDecisionSchema,
    answers: { '200': answer('The change', changeJson) },
  },
  async ({ db, change, body, guard }) =>
    Response.json(toJson(changeJson, await recordDecision(db, change.id, body, guard))),
);
