'use client';

import { useEffect, useRef, type ReactNode } from 'react';
import { useHydrated } from './useHydrated';

/** Holds the controls of a form, which take nothing until the form can keep it: what is typed is never lost. */
export function FormBody({ className, children }: { className: string; children: ReactNode }) {
  const alive = useHydrated();
  const body = useRef<HTMLFieldSetElement>(null);
  useEffect(() => {
    // The browser passed over the field to begin with, since it was not open yet.
    if (alive) body.current?.querySelector<HTMLElement>('[autofocus]')?.focus();
  }, [alive]);
  return (
    <fieldset ref={body} disabled={!alive} className={className}>
      {children}
    </fieldset>
  );
}
