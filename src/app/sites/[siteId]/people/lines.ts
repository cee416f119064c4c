import { addDays, isoDay, type Day } from '@/core/calendar/day';
import type { Shared } from '@/core/access/readOnlyLink';
import { mediumDay } from '@/core/words/format';
import { listLinks, type KnownLink } from '@/store/access/links';
import type { KnownToken } from '@/store/access/tokens';
import { today } from '@/store/clock';
import type { Db } from '@/store/database';
import type { LinkLine } from '@/ui/access/Links';
import type { TokenLine } from '@/ui/access/Tokens';

/** An instant in UTC as lists show it. */
export const moment = (at: string) => at.slice(0, 16).replace('T', ' ');
const dayOf = (at: string) => at.slice(0, 10);

export function linkLine(link: KnownLink): LinkLine {
  const { id, of, title, createdAt, madeBy, lastDay, asksPassword, opened, lastOpenedAt, withdrawnAt } = link;
  return {
    ...{ id, of, title, madeBy, asksPassword, opened },
    ...{ made: dayOf(createdAt), until: mediumDay(lastDay as Day) },
    lastOpened: lastOpenedAt && moment(lastOpenedAt),
    state: withdrawnAt !== null ? 'withdrawn' : lastDay < today() ? 'over' : 'open',
  };
}

export function tokenLine(token: KnownToken): TokenLine {
  const { id, name, right, begins, madeBy, createdAt, lastDay, lastUsedAt, endedAt } = token;
  return {
    ...{ id, name, right, begins, madeBy, made: dayOf(createdAt) },
    lastUsed: lastUsedAt && moment(lastUsedAt),
    until: lastDay === null ? null : mediumDay(lastDay as Day),
    over: endedAt !== null || (lastDay !== null && lastDay < today()),
  };
}

/** Days for which a link is proposed to open. */
const PROPOSED_DAYS = 30;

/** What the form for a read-only link to a thing shows. */
export function sharing(db: Db, siteId: number, of: Shared, id: number) {
  return {
    ...{ siteId, of, id, lastDay: isoDay(addDays(today(), PROPOSED_DAYS)) },
    links: listLinks(db, siteId, { of, thingId: id }).map(linkLine),
  };
}
