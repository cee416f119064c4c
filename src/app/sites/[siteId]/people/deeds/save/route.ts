import { operation } from '@/app/api/v1/doorway';
import { savedTable } from '@/app/savedTable';
import { listAuditEntries } from '@/store/access/auditEntries';
import { auditQuery } from '../query';

/** More than this is asked for a span at a time. */
const MOST_LINES = 100_000;

/** Who did what, as it is filtered, as CSV. */
export const GET = operation(
  { summary: 'Who did what, as a file', on: 'site', may: 'edit', answers: {} },
  ({ db, site, request }) => {
    const asked = Object.fromEntries(new URL(request.url).searchParams);
    const { items } = listAuditEntries(db, auditQuery(site.id, asked), MOST_LINES);
    const head = ['at', 'times', 'by', 'kind of actor', 'did', 'on', 'number', 'title'];
    const rows = items.map(({ at, times, actor, actorKind, did, on, thingId, title }) => [
      ...[at, times, actor, actorKind, did],
      ...[on, thingId, title],
    ]);
    return savedTable(`who did what, ${site.name}`, 'csv', { head, rows });
  },
);
