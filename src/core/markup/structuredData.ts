import { parseJson } from '../parseJson';
import { namedError } from '../errors';
import type jsonld from 'jsonld';
import type { JsonLd } from 'jsonld/jsonld-spec';
import type { StructuredData } from '../model/evidence';

/** A context that cannot be fetched here. */
class UnknownContext extends namedError('UnknownContext') {}

const VOCABULARY = /^https?:\/\/schema\.org\/?(?:docs\/jsonldcontext\.jsonl?d?)?$/i;
const MOST_TYPES = 50;

/** Nothing is fetched: the one vocabulary that pages use is stood in for by its own name. */
async function loadContext(url: string) {
  if (!VOCABULARY.test(url)) throw new UnknownContext(url);
  const context = { '@vocab': 'https://schema.org/', id: '@id', type: '@type' };
  return { documentUrl: url, document: { '@context': context } as JsonLd };
}

/**
 * Reads a block of JSON-LD 1.1: whether it is JSON, whether it expands, and its types, those of the
 * vocabulary by bare name.
 */
export async function readStructuredData(source: string): Promise<StructuredData> {
  let data: unknown;
  try {
    data = parseJson(source);
  } catch (error) {
    return { types: [], problem: `It is not JSON: ${sentence(error)}` };
  }
  if (typeof data !== 'object' || data === null)
    return { types: [], problem: 'It holds neither an object nor a list.' };
  try {
    // Loaded on first use: it is large, and threads with other tasks load this file too.
    const { default: library } = await import('jsonld');
    // Without a base, so that an unknown name isn’t taken for a URL of the page.
    const expanded = await library.expand(data as jsonld.JsonLdDocument, {
      base: '',
      documentLoader: loadContext,
    });
    const named = typesIn(expanded);
    const unexplained = named.filter((type) => !type.includes(':'));
    if (expanded.length === 0 || unexplained.length > 0)
      return { types: unexplained, problem: 'It says nothing: without a context its names mean nothing.' };
    return { types: named.map(bareName), problem: null };
  } catch (error) {
    const unknown = unknownContext(error);
    if (unknown !== null)
      return {
        types: typesIn(data),
        problem: `Its context ${unknown} is not known here, so it was not checked.`,
      };
    return { types: typesIn(data), problem: `It is not JSON-LD: ${sentence(error)}` };
  }
}

function sentence(error: unknown): string {
  if (error instanceof RangeError) return 'it is nested too deep.';
  const text = error instanceof Error ? error.message : String(error);
  return text.split('\n')[0]!.slice(0, 200);
}

/** The URL of an unknown context, from anywhere among the causes of an error. */
function unknownContext(error: unknown): string | null {
  for (let one = error; one instanceof Error;) {
    if (one instanceof UnknownContext) return one.message.slice(0, 200);
    const { details } = one as { details?: { cause?: unknown } };
    one = details?.cause ?? one.cause;
  }
  return null;
}

/** Types named anywhere in a value, in order. Iterative, since it may be nested deep. */
function typesIn(root: unknown): string[] {
  const found = new Set<string>();
  const open: unknown[] = [root];
  while (open.length > 0 && found.size < MOST_TYPES) {
    const value = open.pop();
    if (typeof value !== 'object' || value === null) continue;
    const types = (value as { '@type'?: unknown })['@type'] ?? [];
    for (const type of Array.isArray(types) ? types : [types]) if (typeof type === 'string') found.add(type);
    for (const inner of Object.values(value).reverse()) open.push(inner);
  }
  return [...found];
}

function bareName(type: string): string {
  return type.replace(/^https?:\/\/schema\.org\//, '');
}
