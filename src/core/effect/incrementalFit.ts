import { namedError } from '../errors';

/* Learning that takes long, in steps: whoever has others waiting lets them go first in between. */

/** Runs steps to their end, and gives what came of them. */
export function finished<T>(steps: Generator<void, T>): T {
  for (;;) {
    const { done, value } = steps.next();
    if (done) return value;
  }
}

/** Whether what is asked for is learned at once, or step by step by whoever asks: then `NotFittedError` is thrown. */
export type FitMode = { inSteps: boolean };

/** Thrown where something is to be learned first, step by step; then the same may be asked again. */
export class NotFittedError extends namedError('NotFittedError') {
  constructor(readonly steps: () => Generator<void, void>) {
    super('This is to be learned first.');
  }
}
