'use client';

import { createContext, useContext, type ReactNode } from 'react';
import type { Right } from '@/core/access/rights';

const MayContext = createContext<readonly Right[]>([]);

/** Tells the screens of a site what whoever looks at them may do; the server asks again, whatever is shown. */
export function MayProvider({ rights, children }: { rights: readonly Right[]; children: ReactNode }) {
  return <MayContext.Provider value={rights}>{children}</MayContext.Provider>;
}

export const useRights = (): readonly Right[] => useContext(MayContext);

/** Shows what only those need who may do a thing. */
export function IfMay({ right, children }: { right: Right; children: ReactNode }) {
  return useRights().includes(right) && children;
}
