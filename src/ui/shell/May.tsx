'use client';

import { AppLink } from '../kit/AppLink';
import { createContext, useContext, type ComponentProps, type ReactNode } from 'react';
import type { Right } from '@/core/access/rights';

const MayContext = createContext<readonly Right[]>([]);

/** Tells the screens of a site what whoever looks at them may do; the server asks again, whatever is shown. */
export function MayProvider({ rights, children }: { rights: readonly Right[]; children: ReactNode }) {
  return <MayContext.Provider value={rights}>{children}</MayContext.Provider>;
}

export const useRights = (): readonly Right[] => useContext(MayContext);

/** Whether whoever looks may do a thing. */
export const useMay = (right: Right): boolean => useRights().includes(right);

/** Shows what only those need who may do a thing. */
export function IfMay({ right, children }: { right: Right; children: ReactNode }) {
  return useMay(right) && children;
}

/** A link to a form, for those who may fill it in. */
export function FormLink({ right, ...link }: ComponentProps<typeof AppLink> & { right: Right }) {
  return (
    <IfMay right={right}>
      <AppLink {...link} />
    </IfMay>
  );
}
