import { AppLink } from '../kit/AppLink';
import { isoDay } from '@/core/calendar/day';
import type { Span } from '@/core/calendar/span';
import { datedSpan } from '@/core/words/format';
import { routes } from '../shell/routes';

/** How an address names a period. */
export function periodKey({ firstDay, lastDay }: Span): string {
  return `${isoDay(firstDay)}--${isoDay(lastDay)}`;
}

type Props = { siteId: number; periods: readonly Span[]; chosen: Span | null; daily: boolean };

/** Periods offered; older ones are found by their files. */
const MOST_SHOWN = 12;

/** A line to choose between daily figures and totals of periods. */
export function PeriodChoice({ siteId, periods, chosen, daily }: Props) {
  const here = chosen && periodKey(chosen);
  return (
    <nav aria-label="Figures shown" className="mb-3 flex flex-wrap gap-x-4 gap-y-1 text-[0.85rem]">
      {daily && (
        <Choice href={routes.pages(siteId)} here={here === null}>
          daily figures
        </Choice>
      )}
      {periods.slice(0, MOST_SHOWN).map((period) => (
        <Choice
          key={periodKey(period)}
          href={`${routes.pages(siteId)}?period=${periodKey(period)}`}
          here={here === periodKey(period)}
        >
          period totals {datedSpan(period)}
        </Choice>
      ))}
    </nav>
  );
}

function Choice({ href, here, children }: { href: string; here: boolean; children: React.ReactNode }) {
  return here ? (
    <span aria-current="page" className="font-bold">
      {children}
    </span>
  ) : (
    <AppLink href={href} className="inline-link">
      {children}
    </AppLink>
  );
}
