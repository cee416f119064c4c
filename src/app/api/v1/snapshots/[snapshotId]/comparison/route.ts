import { answering, Problem } from '@/app/problem';
import { differencesBetween } from '@/core/markup/differences';
import { findSnapshot, snapshotsOf } from '@/store/snapshots';
import { asId, snapshotOf, type SnapshotParams } from '../../../request';
import { comparisonToJson } from '../../../serialise';

/** Compares a snapshot with another of the same site that is named, else with the one of its page before it. */
export const GET = answering(async (request: Request, context: SnapshotParams) => {
  const { db, snapshot } = await snapshotOf(context);
  const named = new URL(request.url).searchParams.get('with');
  const other =
    named === null
      ? snapshotsOf(db, snapshot.pageId, 1000).find(({ id }) => id < snapshot.id)
      : findSnapshot(db, asId(named));
  if (!other || other.siteId !== snapshot.siteId)
    throw new Problem(
      404,
      named === null ? 'It is the first of its page.' : `There is no snapshot ${named}.`,
    );
  return Response.json(
    comparisonToJson(other, snapshot, differencesBetween(other.evidence, snapshot.evidence)),
  );
});
