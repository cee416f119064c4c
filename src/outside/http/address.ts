import { namedError } from '../../core/errors';
import ipaddr from 'ipaddr.js';

/** An address that must not be asked. The message is one sentence for the person who gave it. */
export class AddressRefused extends namedError('AddressRefused') {}

/**
 * Whether an IP address is one of the open internet: not private, loopback, link-local, shared, or otherwise set apart
 * (IANA's special-purpose registries, RFC 6890), also where IPv6 wraps an IPv4 address.
 */
export function isPublicIp(text: string): boolean {
  if (!ipaddr.isValid(text)) return false;
  // `process` unwraps IPv4 addresses in IPv6.
  const address = ipaddr.process(text);
  if (address.range() !== 'unicast') return false;
  return address.kind() === 'ipv4' || !address.toString().startsWith('64:ff9b:');
}

/** Reads an address to be asked. Throws AddressRefused where it is no web address. */
export function askable(text: string, base?: string): URL {
  let url: URL;
  try {
    url = new URL(text, base);
  } catch {
    throw new AddressRefused(`“${text.slice(0, 80)}” is not an address.`);
  }
  if (url.protocol !== 'https:' && url.protocol !== 'http:')
    throw new AddressRefused(`“${text.slice(0, 80)}” is not a web address (http or https).`);
  if (url.username || url.password)
    throw new AddressRefused('The address must not hold a user name or password; give a token instead.');
  return url;
}

const DEFAULT_PORTS: Readonly<Record<string, string>> = { 'http:': '80', 'https:': '443' };

/**
 * Whether an address is of an origin (RFC 6454) that was allowed by name: `http://192.168.1.4:8080`. Without a scheme either one
 * is meant, and without a port the usual one of its scheme: what was allowed is a service, not everything on its machine.
 * @example isAllowed(new URL('http://192.168.1.4:8080/x'), ['192.168.1.4']) // false
 */
export function isAllowed(url: URL, allowed: readonly string[]): boolean {
  const usual = DEFAULT_PORTS[url.protocol] ?? '';
  const withPort = `${url.hostname}:${url.port || usual}`;
  const names = [withPort, ...(url.port === '' ? [url.hostname, url.hostname.replace(/^\[|\]$/g, '')] : [])];
  return names.some((name) => allowed.includes(name) || allowed.includes(`${url.protocol}//${name}`));
}
