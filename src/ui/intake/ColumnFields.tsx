/** What each column of a file holds, to be set by hand. */
export function ColumnFields<F extends string>({
  head,
  fields,
  names,
  mapping,
  busy,
  onMap,
}: {
  readonly head: readonly string[];
  readonly fields: readonly F[];
  readonly names: Readonly<Record<F, string>>;
  readonly mapping: Readonly<Partial<Record<F, number | null>>>;
  readonly busy: boolean;
  readonly onMap: (column: number, field: F | '') => void;
}) {
  return (
    <>
      <h2 id="columns" className="mb-2 text-xl">
        What each column holds
      </h2>
      <div className="grid grid-cols-2 gap-x-5 gap-y-2.5 sm:grid-cols-3 lg:grid-cols-6">
        {head.map((name, column) => (
          <label key={column} className="block min-w-0 text-[0.85rem]">
            <span className="block truncate font-semibold" title={name}>
              {name || `column ${column + 1}`}
            </span>
            <select
              aria-label={name || `column ${column + 1}`}
              className="select select-sm mt-0.5 w-full"
              value={fields.find((field) => mapping[field] === column) ?? ''}
              disabled={busy}
              onChange={(e) => onMap(column, e.target.value as F | '')}
            >
              <option value="">left unread</option>
              {fields.map((field) => (
                <option key={field} value={field}>
                  {names[field]}
                </option>
              ))}
            </select>
          </label>
        ))}
      </div>
    </>
  );
}
