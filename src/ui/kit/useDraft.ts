'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import { draftsOf, dropDraft, dropOldDrafts, keepDraft, type Draft } from './drafts';

const TAB = 'tally:tab';

/** A name of this tab, which outlives reloading it and not closing it. */
function thisTab(): string {
  try {
    const known = sessionStorage.getItem(TAB);
    if (known) return known;
    const made = crypto.randomUUID?.() ?? String(Math.random());
    sessionStorage.setItem(TAB, made);
    return made;
  } catch {
    return 'this';
  }
}

export type Kept<T> = {
  /** Keeps the form as it is now. */
  readonly keep: (values: T) => void;
  /** Forgets the draft: the form was saved, and begins from there now, or is given up. */
  readonly forget: (now?: T) => void;
  /** Drafts that other tabs have left. */
  readonly left: readonly (Draft<T> & { readonly tab: string })[];
  /** Since when what is shown was typed and not saved, where it was found again. */
  readonly foundFrom: string | null;
  readonly take: (draft: Draft<T> & { readonly tab: string }) => void;
  readonly drop: (tab: string) => void;
  /** Begins again from what is saved. */
  readonly beginAnew: () => void;
};

type DraftOptions<T> = {
  /** What the form is about: `change:12`. Drafts of other things are none of its own. */
  readonly what: string;
  /** What is saved, which the form begins from. */
  readonly base: T;
  /** What a new form begins with in this browser, such as the choices made last. */
  readonly begin?: () => T;
  /** Puts values into the form, with what they began from. */
  readonly show: (values: T, base: T) => void;
};

/**
 * Keeps what is typed in a form until it is saved, by what the form is about: nothing is lost by closing a tab, by a save that fails,
 * or by going elsewhere. What this tab was typing is there again at once; what another one has left is offered.
 */
export function useDraft<T extends object>(wish: DraftOptions<T>): Kept<T> {
  const { what } = wish;
  const [left, setLeft] = useState<Kept<T>['left']>([]);
  const [foundFrom, setFoundFrom] = useState<string | null>(null);
  const from = useRef(wish.base);
  const latest = useRef(wish);
  useEffect(() => {
    latest.current = wish;
  });

  const showWith = useCallback((values: T, base: T, foundAt: string | null) => {
    from.current = base;
    setFoundFrom(foundAt);
    latest.current.show(values, base);
  }, []);

  useEffect(() => {
    dropOldDrafts(localStorage, new Date());
    const { own, others } = draftsOf<T>(localStorage, what, thisTab());
    // Only now, when the screen is alive, is it known what the browser holds.
    // eslint-disable-next-line react-hooks/set-state-in-effect
    setLeft(others);
    const { begin } = latest.current;
    if (own) showWith(own.values, own.base, own.at);
    else if (begin) {
      const begun = begin();
      showWith(begun, begun, null);
    }
  }, [what, showWith]);

  const keep = useCallback(
    (values: T) => keepDraft(localStorage, what, thisTab(), values, from.current, new Date()),
    [what],
  );
  const drop = (tab: string) => {
    dropDraft(localStorage, what, tab);
    setLeft((all) => all.filter((one) => one.tab !== tab));
  };
  return {
    ...{ keep, left, foundFrom, drop },
    forget: (now) => {
      if (now) from.current = now;
      setFoundFrom(null);
      dropDraft(localStorage, what, thisTab());
    },
    take: (draft) => {
      drop(draft.tab);
      showWith(draft.values, draft.base, draft.at);
      keep(draft.values);
    },
    beginAnew: () => {
      dropDraft(localStorage, what, thisTab());
      showWith(wish.base, wish.base, null);
    },
  };
}
