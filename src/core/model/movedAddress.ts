import type { Change } from './change';

/** The kind of change by which a page comes to stand at another address. */
export const ADDRESS_KIND = 'address-or-redirect';

/** An address that a change gave up, and the one that it put in its place, as they were written. */
export type Move = { readonly from: string; readonly to: string };

const isAddress = (text: string | null): text is string =>
  text !== null && /^(\/|https?:\/\/)\S*$/i.test(text.trim());

/** The moves that a change of address names: by its own texts, and those of its parts. */
export function movesOf({
  kind,
  oldText,
  newText,
  parts,
}: Pick<Change, 'kind' | 'oldText' | 'newText' | 'parts'>): Move[] {
  return [{ kind, oldText, newText }, ...parts].flatMap((one) =>
    one.kind === ADDRESS_KIND && isAddress(one.oldText) && isAddress(one.newText)
      ? [{ from: one.oldText.trim(), to: one.newText.trim() }]
      : [],
  );
}
