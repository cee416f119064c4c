import type { Metadata } from 'next';
import { AppLink } from '@/ui/kit/AppLink';
import { addDays, isoDay } from '@/core/calendar/day';
import { longDay, plural } from '@/core/words/format';
import { SiteContext } from '@/services/site/siteContext';
import { today } from '@/store/clock';
import { backupFailure } from '@/jobs/runner';
import { daysUnsaved } from '@/services/installation/missedBackups';
import { Desk } from '@/ui/desk/Desk';
import { Screen } from '@/ui/kit/Screen';
import { routes } from '@/ui/shell/routes';
import { siteFromPath, type SitePageProps } from '../site';
import { putOffTo } from './actions';
import { deskOf } from './lines';

export const metadata: Metadata = { title: 'Desk' };

export default async function DeskPage({ params }: SitePageProps) {
  const { db, site } = await siteFromPath((await params).siteId);
  const unsaved = daysUnsaved(db);
  const now = today(site.timeZone);
  const { lastReadable } = new SiteContext(db, site);
  const lines = await deskOf(db, site);
  return (
    <Screen
      title="Desk"
      lead={
        lines.length === 0
          ? `Nothing is due on ${longDay(now)}.`
          : `${plural(lines.length, 'thing')} due on ${longDay(now)}, in the order in which to do them.`
      }
      aside={
        <span className="flex flex-wrap gap-x-4 text-[0.85rem]">
          <AppLink href={routes.groups(site.id)} className="inline-link">
            The whole site, day by day
          </AppLink>
          <a href={`/api/v1/sites/${site.id}/reviews.ics`} className="inline-link">
            Review days for your calendar
          </a>
        </span>
      }
    >
      {unsaved !== null && (
        <p role="status" className="mb-3 border-l-3 border-(--band) pl-3">
          There has been no backup for {plural(unsaved, 'day')}.{' '}
          {backupFailure() ?? 'The log of the server says why.'}
        </p>
      )}
      <Desk
        siteId={site.id}
        today={now}
        fallDays={
          lastReadable === null ? null : { from: isoDay(addDays(lastReadable, -6)), to: isoDay(lastReadable) }
        }
        lines={lines}
        putOff={putOffTo}
      />
    </Screen>
  );
}
