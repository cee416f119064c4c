import { settlingDaysSchema, windowDaysSchema } from '@/core/model/site';
import { ReadingOf } from '../reading';
import { changeFromPath } from './change';

type Props = {
  params: Promise<{ siteId: string; changeId: string }>;
  searchParams: Promise<{ windowDays?: string; settlingDays?: string }>;
};

export default async function ChangePage({ params, searchParams }: Props) {
  const { site, change } = changeFromPath(await params);
  const { windowDays, settlingDays } = await searchParams;
  // Spans that make no sense in a hand-written address are passed over.
  const wish = {
    windowDays: windowDaysSchema.safeParse(Number(windowDays)).data ?? null,
    settlingDays: settlingDays ? (settlingDaysSchema.safeParse(Number(settlingDays)).data ?? null) : null,
  };
  return <ReadingOf site={site} change={change} wish={wish} />;
}
