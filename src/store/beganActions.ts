/*
 * Which requests for an action came as far as one. Next.js answers arguments that cannot be decoded
 * with a 500, as if the program were at fault; the server around it answers with a 400 where no
 * action began.
 */

// The application and the server around it are bundles of their own in one process.
const shared = globalThis as { __tallyBeganActions?: Set<string> };
const began = (shared.__tallyBeganActions ??= new Set<string>());

/** Notes that the action of a request began. */
export function noteAction(request: string | null): void {
  if (request !== null) began.add(request);
}

/** Whether the action of a request began; it is forgotten with that. */
export function takeAction(request: string): boolean {
  return began.delete(request);
}
