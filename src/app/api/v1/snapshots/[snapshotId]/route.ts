import { answering } from '@/app/problem';
import { snapshotOf, type SnapshotParams } from '../../request';
import { snapshotToJson } from '../../serialise';

export const GET = answering(async (_request: Request, context: SnapshotParams) => {
  const { snapshot, page } = await snapshotOf(context);
  return Response.json(snapshotToJson(snapshot, page));
});
