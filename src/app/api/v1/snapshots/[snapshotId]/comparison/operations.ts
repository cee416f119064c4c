import { z } from 'zod';
import { Problem } from '@/app/problem';
import { differencesBetween } from '@/core/markup/differences';
import { findSnapshot, snapshotsOf } from '@/store/evidence/snapshots';
import { toJson } from '@/core/model/json';
import { snapshotComparisonJson } from '@/core/model/snapshotJson';
import { answer, operation } from '../../../doorway';
import { asId } from '../../../request';

const wishSchema = z.strictObject({
  with: z.string().optional().meta({ description: 'The number of another snapshot of the site.' }),
});

export const GET = operation(
  {
    summary: 'In what a snapshot differs from another, or from the one before it',
    on: 'snapshot',
    may: 'read',
    query: wishSchema,
    answers: { '200': answer('The comparison', snapshotComparisonJson) },
  },
  ({ db, snapshot, query: { with: named } }) => {
    const other =
      named === undefined
        ? snapshotsOf(db, snapshot.pageId, 1, snapshot.id)[0]
        : findSnapshot(db, asId(named));
    if (!other || other.siteId !== snapshot.siteId)
      throw new Problem(
        404,
        named === undefined ? 'It is the first of its page.' : `There is no snapshot ${named}.`,
      );
    return Response.json(
      toJson(snapshotComparisonJson, {
        before: other.id,
        after: snapshot.id,
        differences: differencesBetween(other.evidence, snapshot.evidence),
      }),
    );
  },
);
