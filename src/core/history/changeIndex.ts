import type { History } from './history';

/** A change as far as the choice of untouched pages needs it. */
export type ChangedPages = { readonly day: number; readonly pages: readonly { readonly id: number }[] };

/** On which days each row of a history was changed, in their order. */
export class ChangeIndex {
  private readonly days: readonly (readonly number[])[];

  constructor(history: History, changes: readonly ChangedPages[]) {
    const byPage = new Map<number, number[]>();
    for (const { day, pages } of changes) {
      for (const { id } of pages) byPage.set(id, [...(byPage.get(id) ?? []), day]);
    }
    for (const list of byPage.values()) list.sort((a, b) => a - b);
    const never: number[] = [];
    this.days = history.pagesOf.map((pages) => {
      const [first, ...others] = pages.flatMap((page) => byPage.get(page) ?? []);
      if (first === undefined) return never;
      return others.length === 0 ? [first] : [first, ...others].sort((a, b) => a - b);
    });
  }

  /** The first day from `day` on at which the row was changed, or null. */
  firstFrom(row: number, day: number): number | null {
    const list = this.days[row]!;
    for (let i = 0; i < list.length; i++) if (list[i]! >= day) return list[i]!;
    return null;
  }
}
