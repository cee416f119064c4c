import type { ReactNode } from 'react';

/** The name of a column; those of figures stand right, and what matters less goes where the screen is narrow. */
export type Head =
  string | { readonly name: string; readonly figures?: boolean; readonly wideOnly?: boolean };

type Props = {
  readonly label: string;
  readonly heads: readonly Head[];
  /** Whether a last column holds what can be done with each line. */
  readonly acts?: boolean;
  readonly className?: string;
  readonly children: ReactNode;
};

/** A plain list as a table that scrolls by itself where it is wider than the screen. */
export function ListTable({ label, heads, acts = false, className = '', children }: Props) {
  return (
    <div className={`overflow-x-auto ${className}`} tabIndex={0} role="region" aria-label={label}>
      <table className="figures text-[0.9rem]">
        <thead>
          <tr>
            {heads.map((head) => {
              const {
                name,
                figures = false,
                wideOnly = false,
              } = typeof head === 'string' ? { name: head } : head;
              return (
                <th
                  key={name}
                  scope="col"
                  className={`${figures ? '' : 'text-left!'} ${wideOnly ? 'max-sm:hidden' : ''}`}
                >
                  {name}
                </th>
              );
            })}
            {acts && (
              <th scope="col">
                <span className="sr-only">what can be done</span>
              </th>
            )}
          </tr>
        </thead>
        <tbody>{children}</tbody>
      </table>
    </div>
  );
}
