'use client';

import { useEffect, useRef } from 'react';
import type { DefaultValues, FieldValues, Path, UseFormReturn } from 'react-hook-form';
import { fieldsOf } from '@/core/model/edits';
import type { Meanwhile } from './formResult';
import { useDraft } from './useDraft';
import { useEditConflict } from './useEditConflict';

type Wish<T> = {
  /** What the form is about: `change:12`. */
  readonly what: string;
  /** What is saved. */
  readonly initial: T;
  /** What a new form begins with in this browser. */
  readonly begin?: (() => T) | undefined;
  /** The fields of the form in which a field that is sent is typed; the field itself where nothing is said. */
  readonly typedIn?: (field: string) => readonly (keyof T & string)[];
  /** What a field is called, and what stands in it, for somebody who has to choose between two texts. */
  readonly inWords: (field: string, values: T) => { readonly name: string; readonly text: string };
};

/**
 * A form that edits what others may edit too: it keeps what is typed until it is saved, knows what it began from, and where somebody
 * else has changed the same meanwhile lets one choose between both texts.
 */
export function useEdit<T extends FieldValues>(form: UseFormReturn<T>, wish: Wish<T>) {
  const { what, initial, begin, inWords } = wish;
  const typedIn = wish.typedIn ?? ((field) => [field as keyof T & string]);
  const { watch, reset, setValue } = form;
  /** What is edited from: what was saved when the edit began, and of contested fields what somebody else has saved since. */
  const base = useRef(initial);
  /** What this person had typed when somebody else's edit was met. */
  const mine = useRef(initial);
  const meanwhile = useEditConflict();
  const kept = useDraft<T>({
    ...{ what, base: initial },
    ...(begin ? { begin } : {}),
    show: (values, from) => {
      base.current = from;
      reset({ ...initial, ...values } as DefaultValues<T>);
    },
  });
  const { keep, forget } = kept;
  useEffect(() => {
    const { unsubscribe } = watch((values) => keep(values as T));
    return unsubscribe;
  }, [watch, keep]);
  return {
    base,
    kept,
    meanwhile,
    /** Somebody else has changed the same: both texts are shown. */
    met: (theirs: Meanwhile, values: T) => {
      const now = theirs.now as T;
      meanwhile.begin(theirs, (field) => {
        const { name, text } = inWords(field, values);
        return { name, mine: text, theirs: inWords(field, now).text };
      });
      mine.current = values;
      // What they wrote is known now; whatever is chosen is chosen over it.
      base.current = { ...base.current, ...fieldsOf(now, theirs.fields.flatMap(typedIn)) };
    },
    choose: (field: string, choice: 'mine' | 'theirs') => {
      const from = choice === 'mine' ? mine.current : base.current;
      for (const name of typedIn(field)) setValue(name as unknown as Path<T>, from[name]);
    },
    /** The form was saved, and begins from there now. */
    saved: (values: T) => {
      base.current = values;
      meanwhile.over();
      forget(values);
    },
  };
}

/** Said where somebody saves before having chosen. */
export const CHOOSE_FIRST = 'Choose first what shall stand, above.';
