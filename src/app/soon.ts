/** Milliseconds that a screen waits for an answer before it says that it is being worked out. */
const PATIENCE_MS = 300;

/** An answer if it comes soon; otherwise null, and it goes on being worked out. */
export async function soon<T>(answer: Promise<T>): Promise<{ readonly answer: T } | null> {
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
