/**
 * When an edit was made (ISO 8601, UTC), and by whom where that is known: a name, and the account
 * of a person.
 */
export type EditStamp = {
  readonly id: number;
  readonly at: string;
  readonly actor: string | null;
  readonly actorId: string | null;
};

/** An edit, and the fields that it changed. */
export type Edit = EditStamp & {
  readonly fields: readonly string[];
};

/** The edits of something, the last first, from what it said before each of them and what it says now. */
export function editsOf<T>(
  now: T,
  past: readonly (EditStamp & { readonly was: T })[],
  changed: (before: T, after: T) => string[],
): Edit[] {
  const states = [now, ...past.map(({ was }) => was)];
  return past
    .map(({ was, ...stamp }, i) => ({ ...stamp, fields: changed(was, states[i]!) }))
    .filter(({ fields }) => fields.length > 0);
}
