import { namedError } from '../core/errors';

/**
 * What was given cannot be stored. `field` names the part to blame, the message says why in one
 * sentence.
 */
export class InputError extends namedError('InputError') {
  constructor(
    readonly field: string,
    message: string,
    /** HTTP status that fits: 422 unless something stands in the way, then 409. */
    readonly status: 409 | 422 = 422,
  ) {
    super(message);
  }
}
