'use client';

import { useRef, type ReactNode } from 'react';
import { useListKeys } from './useListKeys';

/** Inside it, j and k move the focus to the first link or button of the next or previous element marked `data-row`. */
export function RowKeys({ children }: { children: ReactNode }) {
  const container = useRef<HTMLDivElement>(null);
  const rows = () => [...(container.current?.querySelectorAll<HTMLElement>('[data-row]') ?? [])];
  useListKeys(
    () => rows().length,
    () => rows().findIndex((row) => row.contains(document.activeElement)),
    (index) => rows()[index]?.querySelector<HTMLElement>('a, button')?.focus(),
  );
  return <div ref={container}>{children}</div>;
}
