'use client';

import { createContext, useContext, type ReactNode } from 'react';
import type { Day } from '@/core/calendar/day';

/** The days that choices of days start from. */
export type SiteDaysValue = {
  readonly today: Day;
  /** The newest day with figures that may be read, where ranges such as "Last 28 days" end. */
  readonly newest: Day;
};

const SiteDaysContext = createContext<SiteDaysValue | null>(null);

/** Tells date fields below which day it is on the site, and how far its figures reach. */
export function SiteDays({ today, newest, children }: SiteDaysValue & { readonly children: ReactNode }) {
  return <SiteDaysContext value={{ today, newest }}>{children}</SiteDaysContext>;
}

/** The days of the site on screen. Throws where no `SiteDays` stands above. */
export function useSiteDays(): SiteDaysValue {
  const told = useContext(SiteDaysContext);
  if (!told) throw new Error('Date fields need SiteDays above them.');
  return told;
}
