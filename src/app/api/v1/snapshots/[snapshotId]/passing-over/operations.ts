import { passOver } from '@/store/evidence/snapshots';
import { empty, operation } from '../../../doorway';

const DONE = { '204': empty('Done') };

export const PUT = operation(
  {
    summary: 'Say that what a snapshot shows is nothing to log',
    on: 'snapshot',
    may: 'edit',
    auditAction: 'passed a difference over',
    answers: DONE,
  },
  async ({ db, snapshot }) => {
    await passOver(db, snapshot.siteId, snapshot.id, true);
    return new Response(null, { status: 204 });
  },
);

export const DELETE = operation(
  {
    summary: 'Take that back, so that it is offered again',
    on: 'snapshot',
    may: 'edit',
    auditAction: 'took up a difference again',
    answers: DONE,
  },
  async ({ db, snapshot }) => {
    await passOver(db, snapshot.siteId, snapshot.id, false);
    return new Response(null, { status: 204 });
  },
);
