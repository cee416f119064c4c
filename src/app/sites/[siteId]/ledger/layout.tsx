import type { Metadata } from 'next';
import { Suspense, type ReactNode } from 'react';
import { ask } from '@/app/ask';
import { LedgerList } from '@/ui/ledger/LedgerList';
import { siteFromPath } from '../site';

export const metadata: Metadata = { title: 'Ledger' };

type Props = { children: ReactNode; params: Promise<{ siteId: string }> };

/** The list stays while the pane beside it changes. */
export default async function LedgerLayout({ children, params }: Props) {
  const { site } = await siteFromPath((await params).siteId);
  return (
    <>
      <Suspense>
        <LedgerList siteId={site.id} ledger={await ask('ledger', { siteId: site.id })} />
      </Suspense>
      <main id="main" className="min-w-0 flex-1 wide:h-screen wide:overflow-y-auto">
        {children}
      </main>
    </>
  );
}
