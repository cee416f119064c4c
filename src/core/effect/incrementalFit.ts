import { namedError } from '../errors';

/* Learning that takes long, in steps: whoever has others waiting lets them go first in between. */

/** Runs steps to their end, and gives what came of them. */
export function finished<T>(steps: Generator<void, T>): T {
  for (;;) {
    const { done, value } = steps.next();
    if (done) return value;
  }
}

/**
 * Whether a missing model is fitted at once, or by the caller step by step after `NotFittedError`.
 */
export type FitMode = { inSteps: boolean };

/** Thrown if a model must be fitted first, step by step; after that the same call succeeds. */
export class NotFittedError extends namedError('NotFittedError') {
  constructor(readonly steps: () => Generator<void, void>) {
    super('This is to be learned first.');
  }
}
