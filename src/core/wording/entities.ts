/* Names, numbers, dates and formats that results mention. */

import type { Ranked } from './terms';

/** What something is that a title names. */
export const ENTITY_KINDS = ['name', 'format', 'year', 'number', 'date', 'money', 'share', 'time'] as const;
export type EntityKind = (typeof ENTITY_KINDS)[number];

/** Something that a text names. */
export type Mention = { readonly text: string; readonly kind: EntityKind };

/** Finds what a text names; it knows one language. */
export type EntityReader = (text: string) => readonly Mention[];

/** Something that results name, and how many of them. */
export type Entity = Mention & { readonly results: number; readonly inTitle: boolean };

const keyOf = ({ text, kind }: Mention) => `${kind} ${text.toLowerCase()}`;

/** What the results name, each once a result, that which most name first. */
export function entitiesOf(results: readonly Ranked[], read: EntityReader, own: string | null): Entity[] {
  const ofOwn = new Set(own === null ? [] : read(own).map(keyOf));
  const found = new Map<string, { mention: Mention; results: number }>();
  for (const { text } of results)
    for (const mention of new Map(read(text).map((one) => [keyOf(one), one])).values()) {
      const known = found.get(keyOf(mention)) ?? { mention, results: 0 };
      found.set(keyOf(mention), { ...known, results: known.results + 1 });
    }
  return [...found]
    .map(([key, { mention, results: n }]) => ({ ...mention, results: n, inTitle: ofOwn.has(key) }))
    .sort((a, b) => b.results - a.results || (a.text < b.text ? -1 : 1));
}
