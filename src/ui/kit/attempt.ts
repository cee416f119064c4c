import type { FormResult } from './formResult';

/** An action of the server, as components are given it. */
export type Act<A extends readonly unknown[], T = null> = (...asked: A) => Promise<FormResult<T>>;

const NO_ANSWER = 'The server did not answer, so nothing was saved. What you typed is still here: try again.';

/** Asks an action; where no answer comes (offline, the server stopped or failed), that is a complaint like any other. */
export async function attempt<T>(work: () => Promise<FormResult<T>>): Promise<FormResult<T>> {
  try {
    return await work();
  } catch {
    return { ok: false, errors: [{ field: 'root', message: NO_ANSWER }] };
  }
}

/** What went wrong, in one sentence. */
export function failureOf({ errors }: Extract<FormResult<unknown>, { ok: false }>): string {
  return errors[0]?.message ?? 'That could not be done.';
}
