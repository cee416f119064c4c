'use client';

import { useEffect } from 'react';
import type { UseFormReturn } from 'react-hook-form';
import { OWN_KIND, type ChangeFormValues } from './formValues';

const LAST_CHOICES = 'tally:last-choices';

function load(key: string): Partial<ChangeFormValues> | null {
  try {
    return JSON.parse(localStorage.getItem(key) ?? 'null') as Partial<ChangeFormValues> | null;
  } catch {
    return null;
  }
}

/** Storage can be full or forbidden; the form works without it. */
function store(key: string, value: unknown): void {
  try {
    localStorage.setItem(key, JSON.stringify(value));
  } catch {}
}

/**
 * Keeps what is typed in a form for a new change until it is saved, so that closing the tab loses nothing, and
 * begins with the kind and person chosen last. Does nothing where `key` is null, as for edits.
 */
export function useDraft(form: UseFormReturn<ChangeFormValues>, key: string | null) {
  useEffect(() => {
    if (key === null) return;
    const given = form.getValues();
    const kept = { ...given, ...load(LAST_CHOICES), ...load(key) };
    // A page named by the screen one came from is what is meant now.
    const { pages, queries } = given;
    form.reset({ ...kept, ...(pages.length > 0 && { pages }), ...(queries !== '' && { queries }) });
    const { unsubscribe } = form.watch((values) => store(key, values));
    return unsubscribe;
  }, [form, key]);

  return {
    /** Forgets the draft and remembers the choices that are likely to be the same next time. */
    saved: ({ kind, person }: ChangeFormValues) => {
      if (key === null) return;
      localStorage.removeItem(key);
      // A custom kind is among the kinds the next time, under its own name.
      store(LAST_CHOICES, kind === OWN_KIND ? { person } : { kind, person });
    },
  };
}
