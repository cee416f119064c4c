import { DatabaseRefused } from '../refused';

/**
 * The address under which people reach the program (TALLY_URL), by which links are written, hosts are trusted, and cookies kept
 * to TLS; null where none was told. Throws DatabaseRefused for what is none.
 */
export function publicAddress(told = process.env.TALLY_URL): URL | null {
  if (told === undefined || told.trim() === '') return null;
  const url = URL.canParse(told.trim()) ? new URL(told.trim()) : null;
  if (
    !url ||
    !/^https?:$/.test(url.protocol) ||
    url.pathname !== '/' ||
    url.search ||
    url.hash ||
    url.username
  )
    throw new DatabaseRefused(
      `TALLY_URL must be an address without a path, such as https://tally.example, and is “${told}”.`,
    );
  return url;
}
