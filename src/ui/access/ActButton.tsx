'use client';

import { useRouter } from 'next/navigation';
import type { FormResult } from '../kit/formResult';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';

type Props<T> = {
  readonly children: string;
  /** What it is done to, where the same word stands in several lines. */
  readonly to?: string;
  readonly run: () => Promise<FormResult<T>>;
  /** What is said once it is done. */
  readonly said?: string;
  readonly done?: (value: T) => void;
};

/** A button that looks like a link, does one thing, and has the screen drawn anew. */
export function ActButton<T>({ children, to, run, said, done }: Props<T>) {
  const { busy, act } = useAct();
  const say = useToast();
  const router = useRouter();
  return (
    <button
      type="button"
      className="inline-link min-h-7"
      disabled={busy}
      onClick={() =>
        act(run, (value) => {
          if (said) say(said);
          if (done) done(value);
          else router.refresh();
        })
      }
    >
      {children}
      {to && <span className="sr-only"> {to}</span>}
    </button>
  );
}
