/*
 * Headers by which the surrounding server describes a request to the application. Headers of these
 * names from outside are removed.
 */

/** The address of whoever asks. */
export const REMOTE_HEADER = 'x-tally-remote';

/** What is asked for, as it stands in the address: to come back to after signing in. */
export const PATH_HEADER = 'x-tally-path';

/**
 * Names a request for an action, so that the server learns whether one began; see `startedActions`.
 */
export const ACTION_HEADER = 'x-tally-action';
