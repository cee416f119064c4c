import ipaddr from 'ipaddr.js';

/** Methods that anything here answers to. */
export const METHODS: readonly string[] = ['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE', 'OPTIONS'];

/** Whether the path of an address can be read: percent-encoding that is cut off or no UTF-8 names nothing. */
export function isReadable(url: string): boolean {
  try {
    decodeURIComponent(url.split('?', 1)[0]!);
    return true;
  } catch {
    return false;
  }
}

/**
 * Returns the path and query of a request target, or null if it names another host. Accepts the
 * absolute form and `*` as well as paths (RFC 9112, section 3.2).
 * @example ownTarget('http://127.0.0.1:3000/a?b', new Set(['127.0.0.1:3000'])) // '/a?b'
 */
export function ownTarget(target: string, own: ReadonlySet<string>): string | null {
  if (target === '*') return target;
  if (target.startsWith('/')) return withOneSlash(target);
  if (!URL.canParse(target)) return null;
  const { protocol, host, pathname, search } = new URL(target);
  const isOwn = /^https?:$/.test(protocol) && own.has(host.toLowerCase());
  return isOwn ? withOneSlash(`${pathname}${search}`) : null;
}

/** Two leading slashes would name another host in a redirect. */
const withOneSlash = (path: string) => path.replace(/^[/\\]{2,}/, '/');

/** What a guard needs to know of a request. */
export type RequestOrigin = { readonly host: string | undefined; readonly origin: string | undefined };

/** Hosts by which the server may be addressed: the loopback names with its port, its public address, and those it was told. */
export function ownHosts(
  port: number,
  told: string | undefined,
  address: URL | null = null,
): ReadonlySet<string> {
  const names = ['127.0.0.1', 'localhost', '[::1]'];
  // On the usual port of the web, clients leave the port out.
  const loopback = names.flatMap((name) => [`${name}:${port}`, ...(port === 80 ? [name] : [])]);
  const others = (told ?? '').split(',').map((name) => name.trim().toLowerCase());
  return new Set([...loopback, ...others, address?.host ?? ''].filter((name) => name !== ''));
}

/**
 * Why a request is refused, or null where it may pass. A Host that is not the server's own means that a foreign
 * name was pointed at this machine; a foreign Origin, that another site's page is asking.
 */
export function refusal(asked: RequestOrigin, own: ReadonlySet<string>): string | null {
  if (!asked.host || !own.has(asked.host.toLowerCase())) {
    return 'This server does not answer under that host name. Name further ones in TALLY_ALLOWED_HOSTS.';
  }
  if (asked.origin === undefined) return null;
  const host = URL.canParse(asked.origin) ? new URL(asked.origin).host.toLowerCase() : null;
  return host !== null && own.has(host) ? null : 'Requests from pages of other sites are refused.';
}

/** Whether what a server listens on can be reached from this machine alone. */
export function isLoopback(hostname: string): boolean {
  const bare = hostname.replace(/^\[|\]$/g, '');
  if (bare === 'localhost') return true;
  return ipaddr.isValid(bare) && ipaddr.process(bare).range() === 'loopback';
}

/** What the environment says of who may reach the server. */
export type Told = {
  readonly hostname: string;
  readonly url: string | undefined;
  readonly proxies: string | undefined;
  readonly hosts: string | undefined;
};

/**
 * Why the server is not started as long as nobody has an account; null where only this machine reaches it. Whoever reaches it then
 * may do everything, and a proxy before it lets everybody reach it.
 */
export function openToOthers({ hostname, url, proxies, hosts }: Told): string | null {
  const told = [
    isLoopback(hostname) ? null : `TALLY_BIND is ${hostname}`,
    url ? 'TALLY_URL is set' : null,
    proxies ? 'TALLY_TRUSTED_PROXIES is set' : null,
    hosts ? 'TALLY_ALLOWED_HOSTS is set' : null,
  ].filter((one) => one !== null);
  if (told.length === 0) return null;
  return (
    `Others could reach this server (${told.join(', ')}), and nobody has an account yet, so that they could do everything. ` +
    'Make the first account with: npm run account -- owner you@your.example'
  );
}
