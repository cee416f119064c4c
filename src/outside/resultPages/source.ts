import { parseJson } from '../../core/parseJson';
import { namedError } from '../../core/errors';
import { text } from 'node:stream/consumers';
import { z } from 'zod';
import { newResultPageSchema, type NewResultPage } from '../../core/wording/resultPage';
import { AskFailed, type Get } from '../http/get';

/*
 * A source of result pages is an address that answers with JSON: what a search showed. It is asked by GET with `q`, `language`, `country` and
 * `device`, in the address itself where it says {q} and so on, else as parameters; a token goes along as a bearer token. The answer has `results`
 * as POST /sites/{siteId}/result-pages takes them, and `above`, `ownQuestions`, `asked`, `related` and `bold` where there are any.
 */

/** A search as a source is asked for it. */
export type Search = {
  readonly query: string;
  readonly language: string;
  readonly country: string;
  readonly device: string;
};

/** What a search shows; the day is that on which it was asked. */
export type Shown = Omit<NewResultPage, 'query' | 'day' | 'device'>;

/** Asks for what a search shows now. Throws AskFailed, AddressRefused or SourceRefused with a sentence for people. */
export type ResultSource = (search: Search) => Promise<Shown>;

/** The source answers, but not with a result page. */
export class SourceRefused extends namedError('SourceRefused') {}

export type SourceAccess = {
  readonly address: string;
  readonly token: string;
  readonly privateHosts: readonly string[];
};

const LIMITS = { maxBytes: 2 * 1024 * 1024, idleMs: 20_000, totalMs: 60_000, maxRedirects: 3 };

const shownSchema = newResultPageSchema.omit({ query: true, day: true, device: true });

/** The address at which a source has a search. */
export function sourceAddress(address: string, { query, language, country, device }: Search): string {
  const values = { q: query, language, country, device };
  if (/\{q\}/.test(address))
    return address.replace(/\{(q|language|country|device)\}/g, (_, name: keyof typeof values) =>
      encodeURIComponent(values[name]),
    );
  const url = new URL(address);
  for (const [name, value] of Object.entries(values)) if (value !== '') url.searchParams.set(name, value);
  return url.href;
}

/** The source at an address. */
export function sourceAt(get: Get, { address, token, privateHosts }: SourceAccess): ResultSource {
  return async (search) => {
    const asked = sourceAddress(address, search);
    const headers = {
      accept: 'application/json',
      ...(token !== '' ? { authorization: `Bearer ${token}` } : {}),
    };
    const answer = await get(asked, { headers, privateHosts, ...LIMITS });
    const { host } = new URL(asked);
    const body = await text(answer.body);
    if (answer.status >= 500 || answer.status === 429)
      throw new AskFailed(`${host} answered with status ${answer.status}; try again later.`);
    if (answer.status !== 200)
      throw new SourceRefused(`${host} answered with status ${answer.status} and not 200.`);
    return shownFrom(body, host);
  };
}

function shownFrom(body: string, host: string): Shown {
  let data: unknown;
  try {
    data = parseJson(body);
  } catch {
    throw new SourceRefused(`${host} did not answer with JSON.`);
  }
  // What a source says besides is its own affair.
  const plain = z.record(z.string(), z.unknown()).safeParse(data);
  const known = plain.success
    ? Object.fromEntries(
        Object.entries(plain.data).filter(([name]) => Object.hasOwn(shownSchema.shape, name)),
      )
    : data;
  const read = shownSchema.safeParse(known);
  if (read.success) return read.data;
  const [issue] = read.error.issues;
  throw new SourceRefused(
    `${host} answered, but ${issue!.path.join('.') || 'the whole'} cannot be read: ${issue!.message}`,
  );
}
