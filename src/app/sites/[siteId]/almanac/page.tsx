import type { Metadata } from 'next';
import { AppLink } from '@/ui/kit/AppLink';
import { Suspense } from 'react';
import { listEvents } from '@/store/ledger/events';
import { ask } from '@/app/ask';
import { Almanac } from '@/ui/almanac/Almanac';
import { Screen } from '@/ui/kit/Screen';
import { routes } from '@/ui/shell/routes';
import { siteFromPath, type SitePageProps } from '../site';
import { restoreDeleted } from '../deleted/actions';
import { bringInEvents, deleteEvent, noteEvent, saveEvent } from './actions';

export const metadata: Metadata = { title: 'Almanac' };

export default async function AlmanacPage({ params }: SitePageProps) {
  const { db, site } = await siteFromPath((await params).siteId);
  const doubted = await ask('doubtedEvents', { siteId: site.id });
  const lines = listEvents(db, site.id).map((event) => ({ event, readings: doubted[event.id] ?? 0 }));
  return (
    <Screen
      title="Almanac"
      lead="What happened outside: algorithm updates, seasons, outages, faults. Each shows as a band on every reading that it touches, with a doubt."
      aside={
        <AppLink href={routes.groups(site.id)} className="inline-link text-[0.85rem]">
          The whole site and its groups, day by day
        </AppLink>
      }
    >
      <Suspense>
        <Almanac
          siteId={site.id}
          lines={lines}
          note={noteEvent}
          save={saveEvent}
          remove={deleteEvent}
          restore={restoreDeleted}
          bringIn={bringInEvents}
        />
      </Suspense>
    </Screen>
  );
}
