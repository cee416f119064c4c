import { changeEditSchema, type NewChange } from '@/core/model/change';
import { editChange, setChangeDeleted } from '@/store/changes';
import { answering, Problem } from '@/app/problem';
import { changeOf, readJson, type ChangeParams } from '../../request';
import { changeToJson } from '../../serialise';

export const GET = answering(async (_request: Request, context: ChangeParams) => {
  const { change } = await changeOf(context);
  return Response.json(changeToJson(change));
});

export const PATCH = answering(async (request: Request, context: ChangeParams) => {
  const { db, site, change } = await changeOf(context);
  const body = await readJson(request);
  if (typeof body !== 'object' || body === null) throw new Problem(422, 'The body must be a JSON object.');
  const parsed = changeEditSchema.parse(body);
  // Fields that were left out must not be filled with defaults: they stay as they are.
  const edit = Object.fromEntries(
    Object.entries(parsed).filter(([field]) => field in body),
  ) as Partial<NewChange>;
  return Response.json(changeToJson(await editChange(db, site, change.id, edit)));
});

export const DELETE = answering(async (_request: Request, context: ChangeParams) => {
  const { db, change } = await changeOf(context);
  await setChangeDeleted(db, change.id, true);
  return new Response(null, { status: 204 });
});
