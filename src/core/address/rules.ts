import type { AddressRules } from '../model/addressRules';
import { AddressError } from './address';

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
