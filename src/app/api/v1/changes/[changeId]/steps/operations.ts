import { newStepSchema } from '@/core/model/steps';
import { recordStep } from '@/store/ledger/changes';
import { changeJson } from '@/core/model/changeJson';
import { toJson } from '@/core/model/json';
import { answer, operation } from '../../../doorway';

export const POST = operation(
  {
    summary: 'Record the day of a step, or take it back',
    on: 'change',
    may: 'log',
    auditAction: 'recorded a step',
    body: newStepSchema,
    answers: { '200': answer('The change', changeJson) },
  },
  async ({ db, change, body, guard }) =>
    Response.json(toJson(changeJson, await recordStep(db, change.id, body, guard))),
);
