import { namedError } from '@/core/errors';
import { asProblem, type FieldProblem } from '@/app/problem';
import { editedFields, fieldsInConflict } from '@/core/model/edits';
import type { FormResult, Meanwhile } from '@/ui/kit/formResult';

export type { FormResult };

/** Somebody else has changed the same fields since an edit began. */
export class EditedMeanwhile extends namedError('EditedMeanwhile') {
  constructor(readonly meanwhile: Meanwhile) {
    super('Somebody else changed the same since you began. Choose what shall stand, and save again.');
  }
}

/**
 * Throws EditedMeanwhile if somebody else changed fields of an edit since it began. All three are as
 * forms send them. Call it in the transaction that writes.
 */
export function refuseConflict(edit: object, base: object, now: object): void {
  const fields = fieldsInConflict(
    edit as Record<string, unknown>,
    base as Record<string, unknown>,
    now as Record<string, unknown>,
  );
  if (fields.length > 0) throw new EditedMeanwhile({ fields, now });
}

/**
 * Three-way merge: `now` with the fields in which `given` differs from `base`. Throws EditedMeanwhile
 * if somebody else changed one of them to something else. Call it in the transaction that writes.
 */
export function mergedEdit<T extends object>(given: T, base: T, now: T): T {
  const edit = editedFields(base, given);
  refuseConflict(edit, base, now);
  return { ...now, ...edit };
}

/** Runs what a form asked for and turns what a person can mend into complaints about fields. */
export async function asFormResult<T>(work: () => Promise<T>): Promise<FormResult<T>> {
  try {
    return { ok: true, value: await work() };
  } catch (error) {
    if (error instanceof EditedMeanwhile)
      return { ok: false, errors: [{ field: 'root', message: error.message }], meanwhile: error.meanwhile };
    const problem = asProblem(error);
    if (!problem) throw error;
    const errors: readonly FieldProblem[] =
      problem.errors.length > 0 ? problem.errors : [{ field: 'root', message: problem.message }];
    return { ok: false, errors: [...errors] };
  }
}
