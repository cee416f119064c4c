'use client';

import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { useRights } from './May';
import { routes } from './routes';

const loadPanels = () => import('./Panels').then(({ Panels }) => Panels);
const Panels = dynamic(loadPanels, { ssr: false });

/** The keys that work on every screen, the list of them, and the go-anywhere list. */
export function Shortcuts({ siteId }: { siteId: number }) {
  const router = useRouter();
  const rights = useRights();
  const [open, setOpen] = useState<'keys' | 'go' | null>(null);
  const go = (href: string) => {
    setOpen(null);
    router.push(href);
  };

  // Fetched once the screen stands, so that the first key finds them there.
  useEffect(() => void loadPanels(), []);

  // By the character typed, since "/" and "?" sit on different keys in different countries.
  useHotkeys('n', () => router.push(logHere() ?? routes.newChange(siteId)), {
    useKey: true,
    preventDefault: true,
    enabled: rights.includes('log'),
  });
  useHotkeys('?', () => setOpen('keys'), { useKey: true });
  useHotkeys('mod+k', () => setOpen('go'), { preventDefault: true, enableOnFormTags: true });
  useHotkeys('/', () => document.querySelector<HTMLInputElement>('[data-search]')?.focus(), {
    useKey: true,
    preventDefault: true,
  });

  return open && <Panels siteId={siteId} shown={open} close={() => setOpen(null)} go={go} />;
}

/** Where a change of what the screen is about is logged; null on screens about nothing in particular. */
function logHere(): string | null {
  return document.querySelector('a[data-log]')?.getAttribute('href') ?? null;
}
