import { namedError } from '../../core/errors';
import type { Day } from '../../core/calendar/day';
import type { Change } from '../../core/model/change';

/*
 * Fitting models to a site takes seconds. With many users it happens in a thread of its own, and
 * answers come from the previous model meanwhile.
 */

/**
 * Where missing models are fitted: here and now; elsewhere, answering from the previous model; or
 * elsewhere, with answers that wait for it.
 */
export type Learning = 'here' | 'elsewhere' | 'waited for';

/**
 * Inputs of a model: changes made, the newest readable day, and where missing models are fitted.
 */
export type ModelInputs = {
  readonly changes: readonly Change[];
  readonly lastReadable: Day;
  readonly learning?: Learning;
};

/** Thrown where an answer has to wait for what is learned elsewhere. */
export class StaleDataError extends namedError('StaleDataError') {}
