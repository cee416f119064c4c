/** The name of a person or token, with the account id: names can be reused. */
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
