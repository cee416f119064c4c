'use client';

import { useState } from 'react';
import type { Meanwhile } from './formResult';

/** A field that two people have changed: what it is called, and what each of them wrote, as text. */
export type Contested = {
  readonly field: string;
  readonly name: string;
  readonly mine: string;
  readonly theirs: string;
};

type Choice = 'mine' | 'theirs';

/** What somebody else has saved of the same fields while a form was being edited, and which of both shall stand. */
export function useEditConflict() {
  const [contested, setContested] = useState<readonly Contested[]>([]);
  const [chosen, setChosen] = useState<ReadonlyMap<string, Choice>>(new Map());
  return {
    contested,
    chosen,
    /** Whether something is still to be chosen. */
    open: contested.some(({ field }) => !chosen.has(field)),
    begin: ({ fields }: Meanwhile, tell: (field: string) => Omit<Contested, 'field'>) => {
      setContested(fields.map((field) => ({ field, ...tell(field) })));
      setChosen(new Map());
    },
    choose: (field: string, choice: Choice) => setChosen(new Map(chosen).set(field, choice)),
    over: () => setContested([]),
  };
}
