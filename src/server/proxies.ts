import ipaddr from 'ipaddr.js';
import { DatabaseRefused } from '../store/refused';

/** What stands before the server and may say for whom it asks: addresses, or blocks of them. */
export type Proxies = readonly (readonly [ipaddr.IPv4 | ipaddr.IPv6, number])[];

/** Reads TALLY_TRUSTED_PROXIES, such as “127.0.0.1, 10.0.0.0/8”. Throws DatabaseRefused. */
export function trustedProxies(told: string | undefined): Proxies {
  return (told ?? '')
    .split(',')
    .map((one) => one.trim())
    .filter((one) => one !== '')
    .map((one) => {
      try {
        if (one.includes('/')) return ipaddr.parseCIDR(one);
        const address = ipaddr.process(one);
        return [address, address.kind() === 'ipv4' ? 32 : 128] as const;
      } catch {
        throw new DatabaseRefused(
          `TALLY_TRUSTED_PROXIES holds addresses such as 127.0.0.1 or 10.0.0.0/8, and has “${one}” in it.`,
        );
      }
    });
}

function isTrusted(text: string, proxies: Proxies): boolean {
  if (!ipaddr.isValid(text)) return false;
  const address = ipaddr.process(text);
  return proxies.some(([net, bits]) => net.kind() === address.kind() && address.match([net, bits] as never));
}

/**
 * The address of whoever asks: that of the connection, or what the trusted proxies say of it. X-Forwarded-For is read from its
 * end, since whoever asks may have begun it.
 * @example remoteAddress('127.0.0.1', '6.6.6.6, 203.0.113.9', trustedProxies('127.0.0.1')) // '203.0.113.9'
 */
export function remoteAddress(
  connection: string | undefined,
  forwardedFor: string | undefined,
  proxies: Proxies,
): string {
  let from = connection ?? 'unknown';
  const hops = (forwardedFor ?? '').split(',').map((hop) => hop.trim());
  while (isTrusted(from, proxies) && hops.length > 0) {
    const hop = hops.pop()!;
    if (!ipaddr.isValid(hop)) break;
    from = hop;
  }
  return ipaddr.isValid(from) ? ipaddr.process(from).toString() : from;
}

/** Headers by which others could say what only a proxy is believed, or what the server itself tells the application. */
export const FORWARDED = [
  ...['forwarded', 'x-forwarded-for', 'x-forwarded-host', 'x-forwarded-proto', 'x-forwarded-port'],
  ...['x-forwarded-server', 'x-real-ip', 'via'],
];
