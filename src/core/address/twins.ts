import type { AddressRules } from '../model/addressRules';

/*
 * Sources spell the same page differently: with a slash at the end or without, in capitals, over http, with the index file.
 * Two addresses that differ only so are twins.
 */

/** What two spellings of one page differ by. */
export const SPELLINGS = ['slash', 'case', 'scheme', 'index'] as const;
export type Spelling = (typeof SPELLINGS)[number];

export const SPELLING_NAMES: Record<Spelling, string> = {
  slash: 'the slash at the end',
  case: 'capital and small letters',
  scheme: 'http and https, or www.',
  index: 'the index file',
};

const INDEX_FILE = /\/(?:index|default)\.[a-z]+$/i;

/** An address without what some spellings differ by. */
function without(address: string, spellings: readonly Spelling[]): string {
  const [, scheme = '', host = '', path = '', rest = ''] =
    /^(https?:\/\/)([^/?#]*)([^?#]*)(.*)$/i.exec(address) ?? [];
  let [start, middle] = [scheme + host, path === '' ? address : path];
  if (spellings.includes('index')) middle = middle.replace(INDEX_FILE, '/');
  if (spellings.includes('slash')) middle = middle.replace(/\/+$/, '');
  if (spellings.includes('scheme')) start = host.replace(/^www\./i, '');
  const whole = start + middle + (path === '' ? '' : rest);
  return spellings.includes('case') ? whole.toLowerCase() : whole;
}

/** What all twins of an address have in common. @example twinKey('http://a.example/X/index.html') // "a.example/x" */
export function twinKey(address: string): string {
  return without(address, SPELLINGS);
}

/** All choices of spellings, those of fewest first. */
const CHOICES: readonly (readonly Spelling[])[] = Array.from({ length: 2 ** SPELLINGS.length - 1 }, (_, i) =>
  SPELLINGS.filter((_spelling, bit) => ((i + 1) >> bit) & 1),
).sort((a, b) => a.length - b.length);

/**
 * The fewest spellings that two addresses differ by; null where they differ by more than that, or not at all.
 * @example spellingsApart('https://a.example/x', 'https://a.example/x/') // ["slash"]
 */
export function spellingsApart(one: string, other: string): readonly Spelling[] | null {
  if (one === other) return null;
  return CHOICES.find((spellings) => without(one, spellings) === without(other, spellings)) ?? null;
}

/** The rules that make pages one whose addresses differ by some spellings; `sample` are addresses as they should be. */
export function rulesJoining(
  rules: AddressRules,
  spellings: readonly Spelling[],
  sample: readonly string[],
): AddressRules {
  const withSlash = sample.filter((address) => new URL(address).pathname.endsWith('/')).length;
  return {
    ...rules,
    ...(spellings.includes('slash')
      ? { trailingSlash: withSlash * 2 >= sample.length ? ('with' as const) : ('without' as const) }
      : {}),
    ...(spellings.includes('case') ? { ignoreCase: true } : {}),
    ...(spellings.includes('index') ? { dropIndexFiles: true } : {}),
    ...(spellings.includes('scheme') ? { joinSchemes: true, joinWww: true } : {}),
  };
}

/** Spellings in words. @example spellingsText(['slash', 'case']) // "the slash at the end and capital and small letters" */
export function spellingsText(spellings: readonly Spelling[]): string {
  return spellings.map((one) => SPELLING_NAMES[one]).join(', and ');
}
