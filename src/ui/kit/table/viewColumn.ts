import type { ReactNode } from 'react';

/** A column as it is drawn. */
export type ViewColumn = {
  readonly id: string;
  /** Plain text of the head, also where columns are chosen; the id where it is left out. */
  readonly name?: string;
  /** The heading in CSV; the id where it is left out. */
  readonly saveAs?: string;
  /** The head as drawn, where it is more than its name. */
  readonly head?: ReactNode;
  /** Explains the head on hover. */
  readonly about?: string;
  /** Whether it holds text, which stands left; figures stand right. */
  readonly text?: boolean;
  /** Whether its head is for screen readers only. */
  readonly hideHead?: boolean;
  readonly className?: string;
  /** Of its cells alone. */
  readonly cellClass?: string;
  /** Whether it is the one that names a row; otherwise the first is. */
  readonly names?: boolean;
  /** Whether low values come first when it is clicked, as with positions. */
  readonly lowFirst?: boolean;
  /** Whether it is left out until somebody chooses it; it is saved as CSV all the same. */
  readonly hidden?: boolean;
  readonly sortable: boolean;
  readonly saved: boolean;
  /** For server-side sorting: the URL that sorts by this column, and the current order. */
  readonly sortLink?: { readonly href: string; readonly now: 'ascending' | 'descending' | null };
};

export const nameOf = ({ id, name }: ViewColumn) => name ?? id;
