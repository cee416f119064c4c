'use client';

import { useHotkeys } from 'react-hotkeys-hook';

/** Moves through a list with j (next) and k (previous); `move` gets the new place, within the list. */
export function useListKeys(length: number, current: number, move: (index: number) => void): void {
  const step = (by: number) => {
    if (length === 0) return;
    const next = current === -1 ? 0 : Math.min(length - 1, Math.max(0, current + by));
    if (next !== current) move(next);
  };
  useHotkeys('j', () => step(1), [length, current, move]);
  useHotkeys('k', () => step(-1), [length, current, move]);
}
