import { answering } from '@/app/problem';
import { newStepSchema } from '@/core/model/steps';
import { recordStep } from '@/store/changes';
import { changeOf, readBody, type ChangeParams } from '../../../request';
import { changeToJson } from '../../../serialise';

export const POST = answering(async (request: Request, context: ChangeParams) => {
  const { db, change } = await changeOf(context);
  return Response.json(changeToJson(await recordStep(db, change.id, await readBody(request, newStepSchema))));
});
