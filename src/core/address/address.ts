import { namedError } from '../errors';

/** An address was given that cannot be used. The message is one plain sentence for the person who gave it. */
export class AddressError extends namedError('AddressError') {}

const MAX_LENGTH = 2048;
const UNRESERVED = /^[A-Za-z0-9\-._~]$/;

/**
 * Percent-encoding put in its one normal form by RFC 3986 section 6.2.2: hexadecimal digits in upper case
 * (6.2.2.1) and octets of unreserved characters decoded (6.2.2.2).
 */
function normalisePercent(text: string): string {
  return text.replace(/%([0-9a-fA-F]{2})/g, (whole, hex: string) => {
    const char = String.fromCharCode(parseInt(hex, 16));
    return UNRESERVED.test(char) ? char : whole.toUpperCase();
  });
}

/** The host without a leading `www.`, by which two spellings of one site are recognised. */
function bareHost(host: string): string {
  return host.replace(/^www\./, '');
}

function readUrl(text: string, base?: URL): URL {
  const trimmed = text.trim();
  if (trimmed === '') throw new AddressError('The address is empty.');
  if (trimmed.length > MAX_LENGTH)
    throw new AddressError(`The address is longer than ${MAX_LENGTH} characters.`);
  let url: URL;
  try {
    url = new URL(trimmed, base);
  } catch {
    throw new AddressError(`“${trimmed.slice(0, 80)}” is not an address.`);
  }
  if (url.protocol !== 'http:' && url.protocol !== 'https:') {
    throw new AddressError(`“${trimmed.slice(0, 80)}” is not a web address (http or https).`);
  }
  return url;
}

/**
 * The address of a site as it is stored: scheme, host and port, no path. `example.org` is taken as https.
 * Throws AddressError.
 * @example siteAddress("WWW.Quillow-Bees.example/") // "https://www.quillow-bees.example"
 */
export function siteAddress(text: string): string {
  const trimmed = text.trim();
  const url = readUrl(/^[a-z][a-z0-9+.-]*:\/\//i.test(trimmed) ? trimmed : `https://${trimmed}`);
  if (url.username || url.password)
    throw new AddressError('The address must not hold a user name or password.');
  if (!url.hostname.includes('.') && url.hostname !== 'localhost') {
    throw new AddressError(
      `“${trimmed.slice(0, 80)}” has no complete host name, such as www.quillow-bees.example.`,
    );
  }
  return url.origin;
}

/**
 * A written address in its one form by RFC 3986 section 6.2.2 and 6.2.3 (case of scheme and host, percent-encoding, dot
 * segments, default port, empty path), without fragment. A path alone is taken as relative to the site. Which of such
 * addresses are one page is for the rules of the site to say. Throws AddressError where it is no address or belongs to
 * another site.
 * @example writtenAddress("HTTP://quillow-bees.example:80/a/../b", "https://www.quillow-bees.example")
 *          // "http://quillow-bees.example/b"
 */
export function writtenAddress(text: string, site: string): string {
  const home = new URL(site);
  const trimmed = text.trim();
  // "host/path" without a scheme would otherwise be read as a path on the site.
  const schemeless = new RegExp(
    `^(www\\.)?${bareHost(home.hostname).replaceAll('.', '\\.')}(:\\d+)?(/|$)`,
    'i',
  );
  const url = readUrl(schemeless.test(trimmed) ? `${home.protocol}//${trimmed}` : trimmed, home);
  if (bareHost(url.hostname) !== bareHost(home.hostname) || !samePort(url, home)) {
    throw new AddressError(`${url.host} is another site than ${home.host}.`);
  }
  return url.origin + normalisePercent(url.pathname) + normalisePercent(url.search === '?' ? '' : url.search);
}

function samePort(a: URL, b: URL): boolean {
  // An empty port is the scheme's default, and http and https count as one site here.
  return a.port === b.port;
}

/** The part of a page's address after its site, for showing: path and query, `/` for the home page. */
export function pagePath(address: string): string {
  const url = new URL(address);
  return url.pathname + url.search;
}

/** An address as it is shown beside others of its site: its path where the site itself goes without saying. */
export function shownAddress(address: string, site: string): string {
  return address.startsWith(`${site}/`) ? address.slice(site.length) : address;
}
