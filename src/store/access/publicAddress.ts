import { DatabaseRefused } from '../refused';

/**
 * The URL of the program (TALLY_URL): links use it, its host is trusted, and cookies are kept to
 * TLS. Null if unset. Throws DatabaseRefused if it isn’t a URL.
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
