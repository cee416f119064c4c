/** The entry of a history that an address names, before which edits are shown; null where it names none. */
export function entryNamed(text: string | string[] | undefined): number | null {
  return typeof text === 'string' && /^\d{1,15}$/.test(text) ? Number(text) : null;
}
