import { z } from 'zod';
import { AddressError } from './address';

/** Patterns of parameters that only tell where a visitor came from (common practice, no published source). */
export const TRACKING_PARAMETERS = ['utm_*', '*clid', 'ref', 'campaign'] as const;

const parameterPattern = z
  .string()
  .trim()
  .min(1)
  .max(60)
  .regex(/^[\w\-.~*[\]]+$/, 'A parameter is letters, digits and - . _ ~, with * for any of them.');

/** Which written addresses of a site are one page, beyond what RFC 3986 makes the same. */
export const addressRulesSchema = z.strictObject({
  /** `http` and `https` are one page. */
  joinSchemes: z.boolean(),
  /** With `www.` and without are one page. */
  joinWww: z.boolean(),
  trailingSlash: z.enum(['as-written', 'with', 'without']),
  /** `/guides/index.html` is `/guides/`. */
  dropIndexFiles: z.boolean(),
  ignoreCase: z.boolean(),
  /** Parameters that are left out, by pattern. */
  droppedParameters: z.array(parameterPattern).max(100),
  /** The only parameters that are kept; null keeps all that are not left out. */
  keptParameters: z.array(parameterPattern).max(100).nullable(),
});
export type AddressRules = z.infer<typeof addressRulesSchema>;

export const DEFAULT_ADDRESS_RULES: AddressRules = {
  joinSchemes: true,
  joinWww: true,
  trailingSlash: 'as-written',
  dropIndexFiles: false,
  ignoreCase: false,
  droppedParameters: [...TRACKING_PARAMETERS],
  keptParameters: null,
};

const INDEX_FILE = /\/(?:index|default)\.(?:html?|php|aspx?|jsp)$/i;

/** Whether a parameter's name fits one of some patterns, in which `*` stands for any characters. Case does not count. */
export function parameterMatcher(patterns: readonly string[]): (name: string) => boolean {
  const parts = patterns.map((pattern) => pattern.toLowerCase().split('*'));
  return (name) => {
    const text = name.toLowerCase();
    return parts.some((pieces) => fits(text, pieces));
  };
}

/**
 * Whether a text begins with the first piece, ends with the last, and has the others in between in their order. Each is taken
 * where it comes first, so that however many stars there are, the text is gone through once.
 */
function fits(text: string, pieces: readonly string[]): boolean {
  const [first = '', ...rest] = pieces;
  const last = rest.pop();
  if (last === undefined) return text === first;
  if (!text.startsWith(first)) return false;
  let at = first.length;
  for (const piece of rest) {
    const found = text.indexOf(piece, at);
    if (found === -1) return false;
    at = found + piece.length;
  }
  return text.length - last.length >= at && text.endsWith(last);
}

/**
 * Makes the key of a page from a written address (see `writtenAddress`) by the rules of its site: addresses with the
 * same key are one page. Throws AddressError where the written address is none.
 */
export function pageKeyMaker(site: string, rules: AddressRules): (written: string) => string {
  const home = new URL(site);
  const dropped = parameterMatcher(rules.droppedParameters);
  const kept = rules.keptParameters && parameterMatcher(rules.keptParameters);
  const bare = (host: string) => host.replace(/^www\./, '');
  return (written) => {
    let url: URL;
    try {
      url = new URL(written);
    } catch {
      throw new AddressError(`“${written.slice(0, 80)}” is not an address.`);
    }
    const ownHost = bare(url.hostname) === bare(home.hostname);
    const scheme = rules.joinSchemes && ownHost ? home.protocol : url.protocol;
    const host = rules.joinWww && ownHost ? home.host : url.host;
    let path = url.pathname;
    if (rules.dropIndexFiles) path = path.replace(INDEX_FILE, '/');
    if (rules.trailingSlash === 'without') path = path.replace(/\/+$/, '') || '/';
    // A last part with a dot is a file, and takes no slash.
    if (rules.trailingSlash === 'with' && !/(?:\/|\.[^/]+)$/.test(path)) path += '/';
    const search = url.search
      .slice(1)
      .split('&')
      .filter((pair) => {
        const name = decoded(pair.split('=', 1)[0] ?? '');
        return pair !== '' && !dropped(name) && (kept === null || kept(name));
      })
      .join('&');
    const rest = path + (search === '' ? '' : `?${search}`);
    return `${scheme}//${host}${rules.ignoreCase ? rest.toLowerCase() : rest}`;
  };
}

function decoded(name: string): string {
  try {
    return decodeURIComponent(name);
  } catch {
    return name;
  }
}
