import { asDay, parseIsoDay, type Day } from '../../core/calendar/day';
import { plainValuesOf } from '../../core/model/changeFields';
import type { Change } from '../../core/model/change';
import type { Step } from '../../core/model/steps';
import { prepared, type Db } from '../database';
import type { change } from '../schema';

type ChangeRow = typeof change.$inferSelect;

/** Ids of changes as one JSON array, so that a statement is compiled once for any number. */
const THESE = 'IN (SELECT value FROM json_each(?))';
/** The page that is named, as it is now. */
const NOW = 'JOIN page n ON n.id = x.page_id JOIN page p ON p.id = coalesce(n.into_id, n.id)';

const PARTS = {
  pages: `SELECT DISTINCT x.change_id AS changeId, p.id, p.address FROM change_page x ${NOW}
          WHERE x.change_id ${THESE} ORDER BY p.address`,
  written: `SELECT change_id AS changeId, address FROM change_page WHERE change_id ${THESE} ORDER BY address`,
  queries: `SELECT change_id AS changeId, text FROM change_query WHERE change_id ${THESE} ORDER BY text`,
  steps: `SELECT change_id AS changeId, step, day, at FROM change_step WHERE change_id ${THESE}`,
  tags: `SELECT change_id AS changeId, tag FROM change_tag WHERE change_id ${THESE} ORDER BY tag`,
  parts: `SELECT x.change_id AS changeId, x.kind, x.old_text AS oldText, x.new_text AS newText, x.address AS written,
                 p.id AS pageId, p.address
          FROM change_part x LEFT ${NOW.replace('JOIN page p', 'LEFT JOIN page p')}
          WHERE x.change_id ${THESE} ORDER BY x.change_id, x.place`,
} as const;

type PartRows = {
  pages: { id: number; address: string };
  written: { address: string };
  queries: { text: string };
  steps: { step: Step; day: number; at: string };
  tags: { tag: string };
  parts: {
    kind: string;
    oldText: string | null;
    newText: string | null;
    written: string | null;
    pageId: number | null;
    address: string | null;
  };
};

/** Adds what belongs to change rows, with one statement for each kind of part. */
export function withParts(db: Db, rows: readonly ChangeRow[]): Change[] {
  if (rows.length === 0) return [];
  const ids = JSON.stringify(rows.map((row) => row.id));
  const partsBy = <K extends keyof PartRows>(kind: K) =>
    groupBy(
      prepared<[string], PartRows[K] & { changeId: number }>(db, PARTS[kind]).all(ids),
      ({ changeId }) => changeId,
    );
  const [pages, queries, steps] = [partsBy('pages'), partsBy('queries'), partsBy('steps')];
  const [tags, parts, written] = [partsBy('tags'), partsBy('parts'), partsBy('written')];
  return rows.map((row) => ({
    id: row.id,
    siteId: row.siteId,
    ...plainValuesOf(row),
    day: asDay(row.day),
    pages: (pages.get(row.id) ?? []).map(({ id, address }) => ({ id, address })),
    written: (written.get(row.id) ?? []).map(({ address }) => address),
    queries: (queries.get(row.id) ?? []).map((q) => q.text),
    parts: (parts.get(row.id) ?? []).map(({ kind, pageId, address, written: as, oldText, newText }) => ({
      ...{ kind, oldText, newText, written: as },
      page: pageId === null || address === null ? null : { id: pageId, address },
    })),
    tags: (tags.get(row.id) ?? []).map(({ tag }) => tag),
    expectation:
      row.expectedMetric === null
        ? null
        : {
            metric: row.expectedMetric,
            direction: row.expectedDirection ?? 'up',
            amount: row.expectedAmount,
            reviewDay: row.reviewDay === null ? null : asDay(row.reviewDay),
          },
    steps: Object.fromEntries((steps.get(row.id) ?? []).map(({ step, day: on }) => [step, asDay(on)])),
    recorded: Object.fromEntries(
      (steps.get(row.id) ?? []).map(({ step, at }) => [step, parseIsoDay(at.slice(0, 10)) as Day]),
    ),
    decision: row.decision === null ? null : { decision: row.decision, reason: row.decisionReason },
  }));
}

function groupBy<T>(items: readonly T[], key: (item: T) => number): Map<number, T[]> {
  const groups = new Map<number, T[]>();
  for (const item of items) {
    const group = groups.get(key(item));
    if (group) group.push(item);
    else groups.set(key(item), [item]);
  }
  return groups;
}
