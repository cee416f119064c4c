import { namedError } from '@/core/errors';
import { z } from 'zod';
import { AddressError } from '@/core/address/address';
import { FileRefused } from '@/jobs/intake/fileRefused';
import { FileTooLarge } from '@/jobs/spool';
import { TooManyTries } from '@/services/access/slowing';
import { InputError } from '@/store/inputError';
import { asRefusal, DatabaseRefused } from '@/store/refused';

/** A field at fault, by its path in the body (`pages.0`), and one sentence about it. */
export type FieldProblem = { readonly field: string; readonly message: string };

const TITLES: Record<number, string> = {
  400: 'Bad request',
  401: 'Unauthorized',
  403: 'Forbidden',
  404: 'Not found',
  405: 'Method not allowed',
  409: 'Conflict',
  412: 'Precondition failed',
  413: 'Content too large',
  415: 'Unsupported media type',
  422: 'Unprocessable content',
  429: 'Too many requests',
  500: 'Internal server error',
  502: 'Bad gateway',
  503: 'Service unavailable',
};

/** An error that becomes a problem document (RFC 9457). */
export class Problem extends namedError('Problem') {
  constructor(
    readonly status: number,
    detail: string,
    readonly errors: readonly FieldProblem[] = [],
    readonly headers: Readonly<Record<string, string>> = {},
  ) {
    super(detail);
  }

  response(): Response {
    const { status, message: detail, errors } = this;
    const body = {
      type: 'about:blank',
      title: TITLES[status],
      status,
      detail,
      ...(errors.length > 0 ? { errors } : {}),
    };
    const headers = { 'Content-Type': 'application/problem+json', ...this.headers };
    return Response.json(body, { status, headers });
  }
}

/** Returns null, or throws Problem (404) if nothing of the site was changed. */
export function foundOr404(found: boolean, thing: string): null {
  if (!found) throw new Problem(404, `There is no such ${thing} any more.`);
  return null;
}

/** The fields at fault in a failed validation, the first complaint about each. */
export function fieldProblems(error: z.ZodError): FieldProblem[] {
  const seen = new Map<string, string>();
  for (const issue of error.issues) {
    const unknown = issue.code === 'unrecognized_keys' ? issue.keys : [];
    for (const key of unknown) seen.set([...issue.path, key].join('.'), 'There is no such field.');
    const field = issue.path.join('.');
    if (unknown.length === 0 && !seen.has(field)) seen.set(field, issue.message);
  }
  return [...seen].map(([field, message]) => ({ field, message }));
}

/** Turns what was thrown into the problem that the client should see; null for faults of the program itself. */
export function asProblem(error: unknown): Problem | null {
  if (error instanceof Problem) return error;
  if (error instanceof InputError) {
    return new Problem(error.status, error.message, [{ field: error.field, message: error.message }]);
  }
  if (error instanceof AddressError) {
    return new Problem(422, error.message, [{ field: 'address', message: error.message }]);
  }
  if (error instanceof FileRefused) {
    const errors = error.toState ? [{ field: error.toState, message: error.message }] : [];
    return new Problem(422, error.message, errors);
  }
  if (error instanceof FileTooLarge) return new Problem(413, error.message);
  if (error instanceof TooManyTries)
    return new Problem(429, error.message, [], { 'Retry-After': String(error.seconds) });
  if (error instanceof z.ZodError) {
    const errors = fieldProblems(error);
    return new Problem(422, errors.map((e) => `${e.field || 'body'}: ${e.message}`).join(' '), errors);
  }
  const refusal = asRefusal(error, 'The database');
  if (refusal instanceof DatabaseRefused) {
    // Whoever runs the program should hear of it as well.
    console.error(error);
    return new Problem(503, `${refusal.message} Nothing of this was saved.`);
  }
  return null;
}

/** Wraps a route handler so that whatever it throws is answered with a problem document. */
export function answering<A extends unknown[]>(handler: (...args: A) => Promise<Response>) {
  return async (...args: A): Promise<Response> => {
    try {
      return await handler(...args);
    } catch (error) {
      const problem = asProblem(error);
      if (problem) return problem.response();
      console.error(error);
      return new Problem(
        500,
        'Something went wrong in the program itself; the log of the server says more.',
      ).response();
    }
  };
}
