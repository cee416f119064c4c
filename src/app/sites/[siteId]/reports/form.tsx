import type { Site } from '@/core/model/site';
import type { ReportScope } from '@/core/model/report';
import { listRounds } from '@/store/rounds/rounds';
import { isoDay } from '@/core/calendar/day';
import { listChanges } from '@/store/ledger/findChanges';
import type { ChangeOffered } from '@/ui/reports/ChangeChoice';
import type { Db } from '@/store/database';
import { pageGroupNames } from '@/services/report/groups';

/** What a report of a site can be about. */
export function scopesOf(db: Db, site: Site): { name: string; scope: ReportScope }[] {
  return [
    { name: 'the whole site', scope: { kind: 'site' } },
    ...pageGroupNames(db, site).map((group) => ({
      name: `the part ${group}`,
      scope: { kind: 'group' as const, group },
    })),
    ...listRounds(db, site.id).map(({ id, name }) => ({
      name: `the round “${name}”`,
      scope: { kind: 'round' as const, roundId: id },
    })),
  ];
}

/** The changes that a report can be about, the newest first. */
export function changesOffered(db: Db, site: Site): ChangeOffered[] {
  return listChanges(db, site.id).map(({ id, title, day }) => ({ id, title, day: isoDay(day) }));
}
