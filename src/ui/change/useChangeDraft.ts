'use client';

import { useEffect } from 'react';
import type { UseFormReturn } from 'react-hook-form';
import { useDraft, type Kept } from '../parts/useDraft';
import { OWN_KIND, type ChangeFormValues } from './formValues';

const LAST_CHOICES = 'tally:last-choices';

function lastChoices(): Partial<ChangeFormValues> {
  try {
    return JSON.parse(localStorage.getItem(LAST_CHOICES) ?? '{}') as Partial<ChangeFormValues>;
  } catch {
    return {};
  }
}

/** Remembers the choices that are likely to be the same next time. */
export function rememberChoices({ kind, person }: ChangeFormValues): void {
  try {
    // A custom kind is among the kinds the next time, under its own name.
    localStorage.setItem(LAST_CHOICES, JSON.stringify(kind === OWN_KIND ? { person } : { kind, person }));
  } catch {}
}

/** What a form is about: the change that it edits, or a new one by what was filled in for it. */
function aboutOf(
  siteId: number,
  changeId: number | null,
  { followsId, title, pages, queries }: ChangeFormValues,
) {
  if (changeId !== null) return `change:${changeId}`;
  const given = [followsId ?? '', title.slice(0, 60), pages.length, pages[0] ?? '', queries.slice(0, 60)];
  return `change:new:${siteId}:${given.join('|')}`;
}

/**
 * The draft of a form for a change. A blank form begins with the kind and person chosen last; `begins` hears what the form is
 * edited from.
 */
export function useChangeDraft(
  form: UseFormReturn<ChangeFormValues>,
  { siteId, changeId, initial }: { siteId: number; changeId: number | null; initial: ChangeFormValues },
  begins: (base: ChangeFormValues) => void,
): Kept<ChangeFormValues> {
  const blank = changeId === null && initial.title === '' && initial.oldText === '' && initial.newText === '';
  const kept = useDraft<ChangeFormValues>({
    what: aboutOf(siteId, changeId, initial),
    base: initial,
    ...(blank ? { begin: () => ({ ...initial, ...lastChoices() }) } : {}),
    show: (values, base) => {
      begins(base);
      form.reset({ ...initial, ...values });
    },
  });
  const { keep } = kept;
  useEffect(() => {
    const { unsubscribe } = form.watch((values) => keep(values as ChangeFormValues));
    return unsubscribe;
  }, [form, keep]);
  return kept;
}
