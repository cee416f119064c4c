'use client';

import type { ReactNode } from 'react';
import type { FormResult } from './formResult';
import { useToast } from './Toast';
import { useAct } from './useAct';
import { useMay } from '../shell/May';

type Props = {
  children: ReactNode;
  /** What is said once it is done, beside the undo. */
  said: string;
  drop: () => Promise<FormResult<unknown>>;
  putBack: () => Promise<FormResult<unknown>>;
  dropped: () => void;
  back: () => void;
};

/** Deletes something at one click, and offers to have it back; for those who may. */
export function DeleteButton({ children, said, drop, putBack, dropped, back }: Props) {
  const { act, busy } = useAct();
  const say = useToast();
  if (!useMay('edit')) return null;
  return (
    <button
      type="button"
      className="inline-link"
      disabled={busy}
      onClick={() =>
        act(drop, () => {
          dropped();
          say(said, () => act(putBack, back));
        })
      }
    >
      {children}
    </button>
  );
}
