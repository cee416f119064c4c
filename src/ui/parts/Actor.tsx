/**
 * Somebody who did something, with the beginning of their account's id: a name alone may have been
 * another's before.
 */
export function Actor({ name, id }: { name: string; id: string | null }) {
  return (
    <>
      {name}
      {id !== null && (
        <>
          {' '}
          <span className="muted text-[0.85em]" title={`Account ${id}`}>
            {id.slice(0, 8)}
          </span>
        </>
      )}
    </>
  );
}
