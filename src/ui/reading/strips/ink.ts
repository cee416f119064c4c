'use client';

import { useSyncExternalStore } from 'react';

/** The colours and fonts of the theme, for drawing on a canvas, where style sheets do not reach. */
export type Ink = {
  readonly ink: string;
  readonly muted: string;
  readonly hairline: string;
  readonly paper: string;
  readonly band: string;
  readonly bandText: string;
  readonly lifted: string;
  readonly dropped: string;
  readonly font: string;
};

function readInk(): Ink {
  const style = getComputedStyle(document.documentElement);
  const of = (name: string) => style.getPropertyValue(name).trim();
  return {
    ink: of('--color-base-content'),
    muted: of('--muted'),
    hairline: of('--hairline'),
    paper: of('--color-base-100'),
    band: of('--band'),
    bandText: of('--band-text'),
    lifted: of('--color-accent'),
    dropped: of('--color-error'),
    font: of('--font-sans'),
  };
}

function subscribe(changed: () => void): () => void {
  const observer = new MutationObserver(changed);
  observer.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] });
  const system = matchMedia('(prefers-color-scheme: dark)');
  system.addEventListener('change', changed);
  return () => {
    observer.disconnect();
    system.removeEventListener('change', changed);
  };
}

/** The ink of the present theme, as JSON so that it is only new when a colour is. Null on the server. */
export function useInk(): Ink | null {
  const text = useSyncExternalStore(
    subscribe,
    () => JSON.stringify(readInk()),
    () => null,
  );
  return text === null ? null : (JSON.parse(text) as Ink);
}
