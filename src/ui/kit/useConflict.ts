'use client';

import { useRef } from 'react';
import { fieldsOf } from '@/core/model/edits';
import type { FormResult } from './formResult';
import { CHOOSE_FIRST } from './useEntityForm';
import { useEditConflict } from './useEditConflict';

type Options<T> = {
  /** What was saved when the edit began. */
  readonly initial: T;
  /** Puts values into the form. */
  readonly set: (values: Partial<T>) => void;
  /** A field's label and value, for choosing between two versions. */
  readonly inWords: (field: string, values: T) => { readonly name: string; readonly text: string };
};

/**
 * Conflict handling for a form that holds its own state. Sends the original values along with the
 * edit; if somebody else changed the same field, offers both versions (`EditConflictChoice`).
 */
export function useConflict<T extends object>({ initial, set, inWords }: Options<T>) {
  const base = useRef(initial);
  const mine = useRef(initial);
  const meanwhile = useEditConflict();
  return {
    meanwhile,
    /** Saves values by `send`, which is given what the edit began from as well. */
    save: async <R>(
      values: T,
      send: (values: T, base: T) => Promise<FormResult<R>>,
    ): Promise<FormResult<R>> => {
      if (meanwhile.open) return { ok: false, errors: [{ field: 'root', message: CHOOSE_FIRST }] };
      const result = await send(values, base.current);
      if (result.ok) {
        base.current = values;
        meanwhile.over();
      } else if (result.meanwhile) {
        const now = result.meanwhile.now as T;
        meanwhile.begin(result.meanwhile, (field) => {
          const { name, text } = inWords(field, values);
          return { name, mine: text, theirs: inWords(field, now).text };
        });
        mine.current = values;
        base.current = { ...base.current, ...fieldsOf(now, result.meanwhile.fields) };
      }
      return result;
    },
    /** Puts what was chosen into the form. */
    choose: (field: string, choice: 'mine' | 'theirs') =>
      set(fieldsOf(choice === 'mine' ? mine.current : base.current, [field])),
  };
}
