'use client';

import { createContext, useCallback, useContext, useEffect, useRef, useState, type ReactNode } from 'react';
import { useKeptFocus } from './useKeptFocus';

type Toast = {
  readonly id: number;
  readonly text: string;
  readonly undo?: () => void | Promise<void>;
  /** Something went wrong: it stays long enough to be read. */
  readonly failed: boolean;
};
type Say = (text: string, undo?: Toast['undo'], failed?: boolean) => void;

const ToastContext = createContext<Say>(() => {});

/** A short message at the foot of the screen, with an undo where there is one. */
export function useToast(): Say {
  return useContext(ToastContext);
}

const SHOWN_MS = 5000;
/** What can be undone stays long enough to be read, found and reached by keyboard. */
const UNDO_SHOWN_MS = 20_000;

export function ToastProvider({ children }: { children: ReactNode }) {
  const [toast, setToast] = useState<Toast | null>(null);
  const say = useCallback<Say>(
    (text, undo, failed = false) => setToast({ id: Date.now(), text, failed, ...(undo ? { undo } : {}) }),
    [],
  );

  const undoButton = useRef<HTMLButtonElement>(null);
  useKeptFocus(toast !== null, undoButton);

  useEffect(() => {
    if (!toast) return;
    const timer = setTimeout(() => setToast(null), toast.undo || toast.failed ? UNDO_SHOWN_MS : SHOWN_MS);
    return () => clearTimeout(timer);
  }, [toast]);

  return (
    <ToastContext.Provider value={say}>
      {children}
      <div
        role="status"
        className="fixed inset-x-0 bottom-4 z-50 flex justify-center px-4 pointer-events-none"
      >
        {toast && (
          <div className="pointer-events-auto flex items-center gap-4 bg-base-content px-4 py-2 text-base-100">
            <span>{toast.text}</span>
            {toast.undo && (
              <button
                ref={undoButton}
                type="button"
                className="font-semibold underline underline-offset-4 focus-visible:outline-base-100"
                onClick={() => {
                  setToast(null);
                  void toast.undo?.();
                }}
              >
                Undo
              </button>
            )}
          </div>
        )}
      </div>
    </ToastContext.Provider>
  );
}
