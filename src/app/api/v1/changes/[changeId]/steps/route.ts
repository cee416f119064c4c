import { newStepSchema } from '@/core/model/steps';
import { recordStep } from '@/store/ledger/changes';
import { answer, operation } from '../../../doorway';
import { changeJson } from '../../../schemas';
import { changeToJson } from '../../../serialise';

export const POST = operation(
  {
    summary: 'Record the day of a step, or take it back',
    on: 'change',
    may: 'log',
    did: 'recorded a step',
    body: newStepSchema,
    answers: { '200': answer('The change', changeJson) },
  },
  async ({ db, change, body, guard }) =>
    Response.json(changeToJson(await recordStep(db, change.id, body, guard))),
);
