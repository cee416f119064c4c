'use client';

import { useSyncExternalStore } from 'react';

const never = () => () => {};

/** Whether the screen answers yet: false in what the server sent, true once the browser has brought it to life. */
export function useHydrated(): boolean {
  return useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
}
