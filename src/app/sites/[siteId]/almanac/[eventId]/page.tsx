import type { Metadata } from 'next';
import Link from 'next/link';
import { notFound } from 'next/navigation';
import { askAcross } from '@/jobs/readings';
import { AcrossView } from '@/ui/almanac/AcrossView';
import { Screen } from '@/ui/parts/Screen';
import { routes } from '@/ui/shell/routes';
import { siteFromPath } from '../../site';

export const metadata: Metadata = { title: 'Who moved' };

type Props = { params: Promise<{ siteId: string; eventId: string }> };

/** Which pages and parts of the site moved across one event. */
export default async function AcrossPage({ params }: Props) {
  const { siteId, eventId } = await params;
  const { site } = siteFromPath(siteId);
  const across = /^\d{1,15}$/.test(eventId) ? await askAcross(site.id, Number(eventId)) : null;
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
    </Screen>
  );
}
