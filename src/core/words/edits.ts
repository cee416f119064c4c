/** An edit: when it was made (ISO 8601, UTC), by whom where that is known, and which fields it changed. */
export type Edit = {
  readonly id: number;
  readonly at: string;
  readonly actor: string | null;
  readonly fields: readonly string[];
};

/** The edits of something, the last first, from what it said before each of them and what it says now. */
export function editsOf<T>(
  now: T,
  past: readonly (Pick<Edit, 'id' | 'at' | 'actor'> & { readonly was: T })[],
  changed: (before: T, after: T) => string[],
): Edit[] {
  const states = [now, ...past.map(({ was }) => was)];
  return past
    .map(({ id, at, actor, was }, i) => ({ id, at, actor, fields: changed(was, states[i]!) }))
    .filter(({ fields }) => fields.length > 0);
}
