import { answering } from '@/app/problem';
import { newDecisionSchema } from '@/core/model/steps';
import { recordDecision } from '@/store/changes';
import { changeOf, readBody, type ChangeParams } from '../../../request';
import { changeToJson } from '../../../serialise';

export const PUT = answering(async (request: Request, context: ChangeParams) => {
  const { db, change } = await changeOf(context);
  const input = await readBody(request, newDecisionSchema);
  return Response.json(changeToJson(await recordDecision(db, change.id, input)));
});
