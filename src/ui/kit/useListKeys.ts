'use client';

import { useHotkeys } from 'react-hotkeys-hook';

/**
 * Moves through a list with j (next) and k (previous). `length` and `current` are asked at each key, since a list
 * may have changed; `current` is -1 where nothing is chosen. `move` gets the new place, always within the list.
 */
export function useListKeys(
  length: () => number,
  current: () => number,
  move: (index: number) => void,
): void {
  const step = (by: number) => {
    const [n, at] = [length(), current()];
    if (n === 0) return;
    const next = at === -1 ? 0 : Math.min(n - 1, Math.max(0, at + by));
    if (next !== at) move(next);
  };
  const options = [length, current, move];
  useHotkeys('j', () => step(1), options);
  useHotkeys('k', () => step(-1), options);
}
