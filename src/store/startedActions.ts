/*
 * Which action requests reached their action. Next.js answers 500 when it cannot decode the arguments, although the
 * request is at fault; the server in front turns that into 400 when no action started.
 */

// The application and the server around it are bundles of their own in one process.
const shared = globalThis as { __tallyStartedActions?: Set<string> };
const started = (shared.__tallyStartedActions ??= new Set<string>());

/** Records that the action of a request started. */
export function markActionStarted(request: string | null): void {
  if (request !== null) started.add(request);
}

/** Whether the action of a request started. Forgets the request. */
export function takeStartedAction(request: string): boolean {
  return started.delete(request);
}
