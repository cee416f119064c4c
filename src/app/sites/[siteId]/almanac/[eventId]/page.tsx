import type { Metadata } from 'next';
import { AppLink } from '@/ui/kit/AppLink';
import { notFound } from 'next/navigation';
import { ask } from '@/app/ask';
import { eventHistory } from '@/services/ledger/histories';
import { AcrossView } from '@/ui/almanac/AcrossView';
import { History } from '@/ui/kit/History';
import { Screen } from '@/ui/kit/Screen';
import { routes } from '@/ui/shell/routes';
import { ThingParts } from '../../people/ThingParts';
import { siteFromPath } from '../../site';
import { entryNamed } from '../../entry';
import { putEventBack } from '../actions';

export const metadata: Metadata = { title: 'Who moved' };

type Props = {
  params: Promise<{ siteId: string; eventId: string }>;
  searchParams: Promise<{ edits?: string | string[] }>;
};

/** Which pages and parts of the site moved across one event, and the edits of the event. */
export default async function AcrossPage({ params, searchParams }: Props) {
  const { siteId, eventId } = await params;
  const { db, site } = await siteFromPath(siteId);
  const across = /^\d{1,15}$/.test(eventId)
    ? await ask('across', { siteId: site.id, eventId: Number(eventId) })
    : null;
  if (!across) notFound();
  const before = entryNamed((await searchParams).edits);
  const past = eventHistory(db, across.event, before);
  return (
    <Screen
      title={across.event.name}
      aside={
        <AppLink href={routes.almanac(site.id)} className="inline-link text-[0.85rem]">
          All events
        </AppLink>
      }
    >
      <AcrossView siteId={site.id} across={across} />
      <History
        edits={past.edits}
        earlier={past.earlier === null ? null : routes.eventEdits(site.id, across.event.id, past.earlier)}
        paged={before !== null}
        restore={putEventBack.bind(null, site.id, across.event.id)}
      />
      <ThingParts siteId={site.id} on="event" id={across.event.id} shared={null} />
    </Screen>
  );
}
