import { createHmac, timingSafeEqual } from 'node:crypto';
import { LONGEST_LINK_DAYS, type NewLink, type Shared } from '../../core/access/readOnlyLink';
import { addDays, parseIsoDay } from '../../core/calendar/day';
import { findLink, makeLink, type SharedLink } from '../../store/access/links';
import { installationSecret } from '../../store/access/secret';
import { today } from '../../store/clock';
import type { Db } from '../../store/database';
import { InputError } from '../../store/inputError';
import { findChange } from '../../store/ledger/findChanges';
import { findReport } from '../../store/reports/reports';
import { findRound } from '../../store/rounds/rounds';
import { findSite } from '../../store/sites';
import { hashPassword, isPassword } from './passwords';
import { slowed } from './slowing';

const FOUND: Readonly<Record<Shared, (db: Db, id: number) => { siteId: number; title: string } | null>> = {
  report: (db, id) => findReport(db, id),
  reading: (db, id) => findChange(db, id),
  round: (db, id) => {
    const round = findRound(db, id);
    return round && { siteId: round.siteId, title: round.name };
  },
};

/** Makes a read-only link to a thing of a site. Throws InputError. */
export async function share(
  db: Db,
  siteId: number,
  { of, id }: { readonly of: Shared; readonly id: number },
  { lastDay: written, password }: NewLink,
): Promise<{ id: number; key: string }> {
  const thing = FOUND[of](db, id);
  if (thing?.siteId !== siteId) throw new InputError('root', `There is no such ${of} any more.`, 409);
  const lastDay = parseIsoDay(written)!;
  const now = today();
  if (lastDay < now) throw new InputError('lastDay', 'That day is past.');
  if (lastDay > addDays(now, LONGEST_LINK_DAYS)) throw new InputError('lastDay', 'At most a year from now.');
  const digest = password === '' ? null : await hashPassword(password);
  return makeLink(db, { siteId, of, thingId: id, title: thing.title, lastDay, password: digest });
}

/** The link of a key, while what it shows exists; null for any other key, however it fails. */
export function openLink(db: Db, key: string): SharedLink | null {
  if (!/^[\w-]{20,100}$/.test(key)) return null;
  const link = findLink(db, key);
  return link && findSite(db, link.siteId) && FOUND[link.of](db, link.thingId)?.siteId === link.siteId
    ? link
    : null;
}

/**
 * Proof of having given a link’s password: bound to the link, its password and this installation.
 */
export function proofFor(link: SharedLink): string {
  return createHmac('sha256', installationSecret())
    .update(`${link.digest}\n${link.password}`)
    .digest('base64url');
}

export function isProof(link: SharedLink, proof: string): boolean {
  const [given, right] = [Buffer.from(proof), Buffer.from(proofFor(link))];
  return given.length === right.length && timingSafeEqual(given, right);
}

/** Whether a password is that of a link. Throws TooManyTries. */
export async function isLinkPassword(link: SharedLink, password: string, from: string): Promise<boolean> {
  if (link.password === null) return true;
  const digest = link.password;
  const right = await slowed({ who: link.digest, from }, async () =>
    (await isPassword(digest, password.slice(0, 200))) ? true : null,
  );
  return right === true;
}
