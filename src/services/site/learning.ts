import { namedError } from '../../core/errors';
import type { Day } from '../../core/calendar/day';
import type { Change } from '../../core/model/change';

/*
 * Learning from a site's figures takes seconds. Where many people ask, it happens in a thread of its own, and meanwhile they are
 * answered from what was learned before.
 */

/**
 * Where it is learned what is not known yet: here and now; elsewhere, while the answer comes from what was learned before; or elsewhere
 * with an answer that has to wait for it.
 */
export type Learning = 'here' | 'elsewhere' | 'waited for';

/** From when an engine knows: the changes that were made, the newest day that may be read, and where more of it is learned. */
export type ModelInputs = {
  readonly changes: readonly Change[];
  readonly lastReadable: Day;
  readonly learning?: Learning;
};

/** Thrown where an answer has to wait for what is learned elsewhere. */
export class StaleDataError extends namedError('StaleDataError') {}
