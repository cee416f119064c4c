import { isoDay, parseIsoDay } from '@/core/calendar/day';
import { DEVICES } from '@/core/intake/rowReader';
import { NARROW_DEVICES } from '@/core/reading/narrowing';
import type { Span } from '@/core/calendar/span';

type Text = string | string[] | undefined;
export type ShownParameters = Readonly<Record<'from' | 'to' | 'device' | 'query', Text>>;

const one = (text: Text) => (Array.isArray(text) ? text[0] : text) ?? '';

/** The days, the device and the search that the address of a page's or query's screen asks for; what makes no sense is passed over. */
export function shownDays(parameters: Partial<ShownParameters>) {
  const [from, to] = [parseIsoDay(one(parameters.from)), parseIsoDay(one(parameters.to))];
  const span: Span | null =
    from !== null && to !== null && to >= from && to - from < 1000 ? { firstDay: from, lastDay: to } : null;
  const device = NARROW_DEVICES.find((name) => name === one(parameters.device)) ?? null;
  return {
    span,
    device: device === null ? DEVICES.all : DEVICES[device],
    deviceName: device ?? '',
    query: one(parameters.query).slice(0, 2000) || null,
  };
}

/** A span as the fields of a form show it. */
export const daysShown = ({ firstDay, lastDay }: Span) => ({ from: isoDay(firstDay), to: isoDay(lastDay) });
