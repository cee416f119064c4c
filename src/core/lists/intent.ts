/* What a search is after, guessed by its words. */

/** To reach a site, to learn, to compare, to buy. */
export const INTENTS = ['to-site', 'to-learn', 'to-compare', 'to-buy'] as const;
export type Intent = (typeof INTENTS)[number];

export const INTENT_NAMES: Readonly<Record<Intent, string>> = {
  'to-site': 'to reach a site',
  'to-learn': 'to learn',
  'to-compare': 'to compare',
  'to-buy': 'to buy',
};

/** Words that give an intent away, by language: common practice, no published source. */
export const INTENT_WORDS: Readonly<Record<Exclude<Intent, 'to-site'>, readonly string[]>> = {
  'to-compare': [
    ...[
      'best',
      'vs',
      'versus',
      'compare',
      'comparison',
      'review',
      'reviews',
      'top',
      'alternative',
      'alternatives',
    ],
    ...['beste', 'besten', 'vergleich', 'test', 'meilleur', 'avis', 'mejor', 'opiniones', 'migliore'],
  ],
  'to-buy': [
    ...[
      'buy',
      'price',
      'prices',
      'cheap',
      'sale',
      'shop',
      'store',
      'order',
      'delivery',
      'discount',
      'cost',
      'supplier',
    ],
    ...[
      'kaufen',
      'preis',
      'günstig',
      'bestellen',
      'acheter',
      'prix',
      'comprar',
      'precio',
      'comprare',
      'prezzo',
    ],
  ],
  'to-learn': [
    ...[
      'how',
      'what',
      'why',
      'when',
      'where',
      'which',
      'who',
      'guide',
      'tutorial',
      'ideas',
      'meaning',
      'learn',
      'tips',
    ],
    ...[
      'wie',
      'was',
      'warum',
      'wann',
      'anleitung',
      'comment',
      'pourquoi',
      'cómo',
      'como',
      'qué',
      'come',
      'perché',
    ],
  ],
};

/**
 * The likely intent of a search; null where no word tells. A search for the site itself is to reach it; a comparison is one also where
 * something is to be bought in the end.
 * @example intentOf('best hive for beginners', false) // "to-compare"
 */
export function intentOf(query: string, brand: boolean): Intent | null {
  if (brand) return 'to-site';
  const words = new Set(query.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? []);
  for (const intent of ['to-compare', 'to-buy', 'to-learn'] as const)
    if (INTENT_WORDS[intent].some((word) => words.has(word))) return intent;
  return null;
}
