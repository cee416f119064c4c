import type { Metadata } from 'next';
import { RIGHTS, refusedBecause } from '@/core/access/rights';
import { Screen } from '@/ui/kit/Screen';
import { siteFromPath, type SitePageProps } from '../site';

export const metadata: Metadata = { title: 'Not yours' };

type Props = SitePageProps & { searchParams: Promise<{ right?: string | string[] }> };

/** What is said instead of a screen that somebody may not see. */
export default async function NotYoursPage({ params, searchParams }: Props) {
  const { asker } = await siteFromPath((await params).siteId);
  const { right: wished } = await searchParams;
  const right = RIGHTS.find((one) => one === wished) ?? 'edit';
  return (
    <Screen title="Not for you to change">
      <p className="max-w-2xl font-serif text-lg">{refusedBecause(asker, right)}</p>
    </Screen>
  );
}
