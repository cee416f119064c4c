/* Long work in a thread that answers others too: in between, they get their turn. */

/** What a site waits for: how far it has come, and with what. */
export type Progress = {
  readonly siteId: number;
  readonly what: string;
  readonly done: number;
  readonly of: number;
};

/** Told now and then how far something has come. */
export type Tell = (progress: Progress) => void;

/** Milliseconds of work between two turns of others. */
const TURN_MS = 50;

/** Lets whatever waits go first. */
export function yieldToEventLoop(): Promise<void> {
  return new Promise((resolve) => setImmediate(resolve));
}

/** Goes step by step to the end; every so often others get their turn. */
export async function stepByStep(steps: Generator<void, void>): Promise<void> {
  let begun = performance.now();
  while (!steps.next().done) {
    if (performance.now() - begun < TURN_MS) continue;
    await yieldToEventLoop();
    begun = performance.now();
  }
}

/** The items of a list; every so often others get their turn, and it is told how many are done. */
export async function* inTurns<T>(
  list: readonly T[],
  tell: (done: number, of: number) => void,
): AsyncGenerator<T> {
  let begun = performance.now();
  for (let at = 0; at < list.length; at++) {
    yield list[at]!;
    if (performance.now() - begun < TURN_MS) continue;
    tell(at + 1, list.length);
    await yieldToEventLoop();
    begun = performance.now();
  }
  tell(list.length, list.length);
}
