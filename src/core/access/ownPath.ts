/** Placeholder origin: the server's own name does not matter here. */
const HERE = 'http://this-server.invalid';

/**
 * Returns the path, query and fragment of an address on this server, as a browser would read it
 * (the URL standard), or `/` for one that leads elsewhere.
 *
 * @example ownPath('/sites/1?a=b') // '/sites/1?a=b'
 * @example ownPath('/\t/other.example') // '/'
 */
export function ownPath(address: unknown): string {
  if (typeof address !== 'string' || !address.startsWith('/')) return '/';
  const path = pathHere(address);
  // What is left may lead elsewhere by itself: `/.//other.example` is `//other.example`.
  return path !== null && pathHere(path) === path ? path : '/';
}

function pathHere(address: string): string | null {
  if (!URL.canParse(address, HERE)) return null;
  const { origin, pathname, search, hash } = new URL(address, HERE);
  return origin === HERE ? `${pathname}${search}${hash}` : null;
}
