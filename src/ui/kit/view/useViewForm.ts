'use client';

import { useEffect, useRef } from 'react';
import type { DefaultValues } from 'react-hook-form';
import { z, type ZodType } from 'zod';
import { AS_TYPED, useEntityForm, type EntityForm } from '../useEntityForm';

type Values = Readonly<Record<string, string>>;

type Options<T extends Values> = {
  /** The values that the URL has now. */
  readonly shown: T;
  /** Identifies the view; when it changes, fields follow the URL again. `shown` by default. */
  readonly view?: string;
  readonly schema?: ZodType;
  /** Navigates to the view that the values describe. */
  readonly go: (values: T) => void;
};

/**
 * A form whose values live in the URL: submitting it navigates, and nothing is stored. When the new
 * view arrives, fields take its values, except those edited while it was on its way.
 */
export function useViewForm<T extends Values>({ shown, view, schema, go }: Options<T>): EntityForm<T> {
  const sent = useRef<T | null>(null);
  const form = useEntityForm<T, T, null>({
    what: null,
    initial: shown,
    codec: AS_TYPED,
    schema: schema ?? z.record(z.string(), z.string()),
    editing: false,
    send: (values) => {
      sent.current = form.getValues();
      go(values as T);
      return Promise.resolve({ ok: true, value: null });
    },
    done: () => undefined,
  });
  const { reset, getValues } = form;
  const current = useRef(shown);
  useEffect(() => {
    current.current = shown;
  });
  const here = view ?? JSON.stringify(shown);
  const drawn = useRef(here);
  useEffect(() => {
    if (drawn.current === here) return;
    drawn.current = here;
    const before = sent.current;
    sent.current = null;
    const edited = Object.entries(getValues()).filter(
      ([name, value]) => before !== null && value !== before[name],
    );
    reset({ ...current.current, ...Object.fromEntries(edited) } as DefaultValues<T>);
  }, [here, getValues, reset]);
  return form;
}
