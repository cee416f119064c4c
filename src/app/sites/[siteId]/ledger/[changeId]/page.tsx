import { parseIsoDay } from '@/core/calendar/day';
import { settlingDaysSchema, windowDaysSchema } from '@/core/model/site';
import { NARROW_DEVICES } from '@/core/reading/narrowing';
import { ReadingOf } from '../reading';
import { entryNamed } from '../../entry';
import { changeFromPath } from './change';

type Wish = Partial<
  Record<
    'windowDays' | 'settlingDays' | 'query' | 'device' | 'page' | 'country' | 'asOf' | 'edits',
    string | string[]
  >
>;
type Props = { params: Promise<{ siteId: string; changeId: string }>; searchParams: Promise<Wish> };

export default async function ChangePage({ params, searchParams }: Props) {
  const { site, change } = await changeFromPath(await params);
  const { windowDays, settlingDays, query, device, page, country, asOf, edits } = await searchParams;
  const asked = typeof query === 'string' && query.trim() !== '' ? query.trim().slice(0, 500) : null;
  // What makes no sense in a hand-written address is passed over.
  const wish = {
    windowDays: windowDaysSchema.safeParse(Number(windowDays)).data ?? null,
    settlingDays: settlingDays ? (settlingDaysSchema.safeParse(Number(settlingDays)).data ?? null) : null,
    query: asked,
    device: NARROW_DEVICES.find((name) => name === device) ?? null,
    country: typeof country === 'string' && country.trim() !== '' ? country.trim().slice(0, 60) : null,
    asOf: typeof asOf === 'string' ? parseIsoDay(asOf) : null,
    pageId: change.pages.find(({ id }) => String(id) === page)?.id ?? null,
  };
  return <ReadingOf site={site} change={change} wish={wish} editsBefore={entryNamed(edits)} />;
}
