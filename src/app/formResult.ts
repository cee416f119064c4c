import { asProblem, type FieldProblem } from '@/app/problem';
import type { FormResult } from '@/ui/parts/formResult';

export type { FormResult };

/** Runs what a form asked for and turns what a person can mend into complaints about fields. */
export async function asFormResult<T>(work: () => Promise<T>): Promise<FormResult<T>> {
  try {
    return { ok: true, value: await work() };
  } catch (error) {
    const problem = asProblem(error);
    if (!problem) throw error;
    const errors: readonly FieldProblem[] =
      problem.errors.length > 0 ? problem.errors : [{ field: 'root', message: problem.message }];
    return { ok: false, errors: [...errors] };
  }
}
