import { Suspense, type ReactNode } from 'react';

/** Milliseconds that a screen waits for an answer before it shows that it is being worked out. */
const PATIENCE_MS = 300;

/** An answer if it comes soon; otherwise null, and it goes on being worked out. */
async function soon<T>(answer: Promise<T>): Promise<{ readonly answer: T } | null> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<null>((resolve) => {
    timer = setTimeout(() => resolve(null), PATIENCE_MS);
  });
  try {
    return await Promise.race([answer.then((value) => ({ answer: value })), late]);
  } finally {
    clearTimeout(timer);
  }
}

type Props<T> = {
  asked: Promise<T>;
  /** What stands there until the answer has come. */
  waiting: ReactNode;
  children: (answer: T) => ReactNode;
};

/** Shows an answer at once where it comes soon, and otherwise as soon as it is there. */
export async function Soon<T>({ asked, waiting, children }: Props<T>) {
  const early = await soon(asked);
  const late = async () => children(await asked);
  // The boundary stands in either case: without it what is typed would be lost when a screen is drawn anew and takes longer.
  return <Suspense fallback={waiting}>{early ? children(early.answer) : late()}</Suspense>;
}
