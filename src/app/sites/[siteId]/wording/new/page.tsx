import type { Metadata } from 'next';
import { isoDay } from '@/core/calendar/day';
import { today } from '@/store/clock';
import { Screen } from '@/ui/kit/Screen';
import { ResultPageForm } from '@/ui/wording/ResultPageForm';
import { siteFromPath, type SitePageProps } from '../../site';
import { keepResults } from '../actions';

export const metadata: Metadata = { title: 'Bring results in' };

type Props = SitePageProps & { searchParams: Promise<{ query?: string | string[] }> };

/** Brings in what a search showed: pasted, from a file or by hand. */
export default async function NewResultPage({ params, searchParams }: Props) {
  const { site } = await siteFromPath((await params).siteId, 'edit');
  const { query = '' } = await searchParams;
  const text = Array.isArray(query) ? (query[0] ?? '') : query;
  return (
    <Screen
      title="Bring results in"
      lead="What a search showed on a day. It is read first and kept when you say so; another look at the same query, day and device takes its place."
    >
      <ResultPageForm
        siteId={site.id}
        query={text.slice(0, 500)}
        day={isoDay(today(site.timeZone))}
        keep={keepResults}
      />
    </Screen>
  );
}
