import type { Metadata } from 'next';
import Link from 'next/link';
import { notFound } from 'next/navigation';
import { changedEventFields } from '@/core/model/event';
import { editsOf } from '@/core/words/edits';
import { ask } from '@/jobs/questions/ask';
import { eventHistoryOf } from '@/store/ledger/events';
import { AcrossView } from '@/ui/almanac/AcrossView';
import { History } from '@/ui/parts/History';
import { Screen } from '@/ui/parts/Screen';
import { routes } from '@/ui/shell/routes';
import { siteFromPath } from '../../site';
import { putEventBack } from '../actions';

export const metadata: Metadata = { title: 'Who moved' };

type Props = { params: Promise<{ siteId: string; eventId: string }> };

/** Which pages and parts of the site moved across one event, and the edits of the event. */
export default async function AcrossPage({ params }: Props) {
  const { siteId, eventId } = await params;
  const { db, site } = siteFromPath(siteId);
  const across = /^\d{1,15}$/.test(eventId)
    ? await ask('across', { siteId: site.id, eventId: Number(eventId) })
    : null;
  if (!across) notFound();
  return (
    <Screen
      title={across.event.name}
      aside={
        <Link href={routes.almanac(site.id)} prefetch={false} className="inline-link text-[0.85rem]">
          All events
        </Link>
      }
    >
      <AcrossView siteId={site.id} across={across} />
      <History
        edits={editsOf(across.event, eventHistoryOf(db, across.event.id), changedEventFields)}
        restore={putEventBack.bind(null, site.id, across.event.id)}
      />
    </Screen>
  );
}
