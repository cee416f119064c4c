'use client';

import { useEffect, useRef, type RefObject } from 'react';

/**
 * Keeps the keyboard where the work is while a message is shown: where the element in focus is
 * taken away, as the line that was deleted, the message's own button is focused, or the main part
 * of the screen where it has none.
 */
export function useKeptFocus(shown: boolean, button: RefObject<HTMLButtonElement | null>): void {
  const last = useRef<Element | null>(null);
  useEffect(() => {
    const note = ({ target }: FocusEvent) => (last.current = target as Element);
    document.addEventListener('focusin', note);
    return () => document.removeEventListener('focusin', note);
  }, []);
  useEffect(() => {
    if (!shown) return;
    const look = () => {
      if (document.activeElement !== document.body || !last.current || last.current.isConnected) return;
      if (button.current) button.current.focus();
      else focusMain();
    };
    const watched = new MutationObserver(look);
    watched.observe(document.body, { childList: true, subtree: true });
    return () => {
      watched.disconnect();
      // The message goes with its button: its Undo was pressed, or its time is over.
      look();
    };
  }, [shown, button]);
}

function focusMain(): void {
  const main = document.getElementById('main');
  main?.setAttribute('tabindex', '-1');
  main?.focus({ preventScroll: true });
}
