import { localDay } from '@/core/calendar/day';
import { mediumDay } from '@/core/words/format';
import type { Pass } from '@/store/access/passes';

/** An invitation as lists show it. */
export const invitationLine = ({ id, email, role, expiresAt, madeBy }: Pass) => ({
  ...{ id, email, role, madeBy },
  until: mediumDay(localDay(Date.parse(expiresAt))),
});
