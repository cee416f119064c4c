import {
  may,
  mayInGeneral,
  refusedBecause,
  type Principal,
  type GeneralRight,
  type Right,
} from '@/core/access/rights';
import { withAuditContext } from '@/store/acting';
import type { Db } from '@/store/database';
import { Problem } from '@/app/problem';
import { resourceOf, type ResourceName, type Resources } from '@/app/resources';

/*
 * The one doorway of routes, actions and screens: who asks, what is asked for, and whether they may. A thing of a site that
 * somebody has nothing to do with is not there for them, so that numbers tell nothing.
 */

/** What is asked for, what right it takes, and what was done once it is (in the past tense, as it goes on from a name). */
export type Access<S extends ResourceName | 'nothing'> = {
  readonly on: S;
  readonly may: S extends 'nothing' ? GeneralRight : Right;
  /** Left out for what changes nothing. */
  readonly auditAction?: string;
};

const unknown = () =>
  new Problem(
    401,
    'Sign in, or send a token: Authorization: Bearer …. One that ended opens nothing any more.',
    [],
    { 'WWW-Authenticate': 'Bearer realm="Modest Tally"' },
  );

/** Throws Problem where somebody may not do what is about no site. */
export function authorizeInGeneral(asker: Principal, right: GeneralRight): void {
  if (mayInGeneral(asker, right)) return;
  throw asker.kind === 'nobody' ? unknown() : new Problem(403, refusedBecause(asker, right));
}

/**
 * Throws Problem (403) unless `asker` administers the installation or no private host is wanted. Site
 * owners may be guests who must not reach the server's own network.
 */
export function authorizePrivateHosts(asker: Principal, wanted: boolean, field: string): void {
  if (!wanted || mayInGeneral(asker, 'administer')) return;
  const message = 'Only an owner of the whole installation can allow hosts on its own network.';
  throw new Problem(403, message, [{ field, message }]);
}

/**
 * The thing of a number, for whoever may do with it what they wish. Throws Problem: 401 for whoever nobody knows, before anything is
 * looked for; 404 (with `absent`) for what is not there, or not theirs to see; 403 where they may see it and not more.
 */
export function authorize<S extends ResourceName>(
  db: Db,
  asker: Principal,
  { on, may: right }: Pick<Access<S>, 'on' | 'may'>,
  id: number,
  absent: string,
  siteId?: number,
): Resources[S] {
  if (asker.kind === 'nobody') throw unknown();
  const subject = resourceOf(on).find(db, id);
  const site = (subject as { site: { id: number } } | null)?.site;
  if (!subject || !site || (siteId !== undefined && site.id !== siteId) || !may(asker, 'read', site.id))
    throw new Problem(404, absent);
  if (!may(asker, right as Right, site.id)) throw new Problem(403, refusedBecause(asker, right as Right));
  return subject;
}

/** Runs what somebody asked for, so that what it writes is noted as done by them. */
export function audited<S extends ResourceName, T>(
  asker: Principal,
  { on, auditAction }: Pick<Access<S>, 'on' | 'auditAction'>,
  id: number,
  subject: Resources[S],
  work: () => T,
): T {
  const siteId = (subject as { site: { id: number } }).site.id;
  const thing = auditAction === undefined ? null : { on, id, title: resourceOf(on).title(subject) };
  return withAuditContext({ asker, auditAction: auditAction ?? null, siteId, thing }, work);
}
