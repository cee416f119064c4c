'use client';

import { useMemo, useSyncExternalStore } from 'react';
import { z } from 'zod';
import type { ViewColumn } from './viewColumn';

const choiceSchema = z.object({ order: z.array(z.string()), hidden: z.array(z.string()) });

/** Which columns are shown, in which order, by their ids. */
type Stored = z.infer<typeof choiceSchema>;

export type Choice = {
  /** All columns, those that are not shown too. */
  readonly order: string[];
  readonly visible: Record<string, boolean>;
  /** Null goes back to the columns as they come. */
  readonly set: (choice: Stored | null) => void;
};

const PREFIX = 'tally:columns:';
const listeners = new Set<() => void>();

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  window.addEventListener('storage', listener);
  return () => {
    listeners.delete(listener);
    window.removeEventListener('storage', listener);
  };
}

/** The text that is stored; storage can be forbidden, and then the columns stay as they come. */
function storedText(key: string | undefined): string | null {
  try {
    return key === undefined ? null : localStorage.getItem(PREFIX + key);
  } catch {
    return null;
  }
}

function parse(text: string | null): Stored | null {
  try {
    return text === null ? null : choiceSchema.parse(JSON.parse(text));
  } catch {
    return null;
  }
}

/**
 * The columns the user chose and ordered in this browser. Columns the product has added since come
 * last; removed ones are dropped.
 */
export function useColumnChoice(key: string | undefined, columns: readonly ViewColumn[]): Choice {
  const text = useSyncExternalStore(
    subscribe,
    () => storedText(key),
    () => null,
  );
  return useMemo(() => {
    const stored = parse(text);
    const ids = columns.map(({ id }) => id);
    const known = stored?.order.filter((id) => ids.includes(id)) ?? [];
    const hidden = new Set(
      stored
        ? [
            ...stored.hidden,
            ...columns.flatMap(({ id, hidden: isHidden }) => (isHidden && !known.includes(id) ? [id] : [])),
          ]
        : columns.flatMap(({ id, hidden: isHidden }) => (isHidden ? [id] : [])),
    );
    return {
      order: [...known, ...ids.filter((id) => !known.includes(id))],
      visible: Object.fromEntries(ids.map((id) => [id, !hidden.has(id)])),
      set: (choice: Stored | null) => {
        try {
          if (choice === null) localStorage.removeItem(PREFIX + key);
          else localStorage.setItem(PREFIX + key, JSON.stringify(choice));
        } catch {}
        listeners.forEach((listener) => listener());
      },
    };
  }, [text, columns, key]);
}
