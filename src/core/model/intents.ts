/* Search intents: what somebody who types a query wants. */

/** Search intents. A page or query has at most one. */
export const INTENTS = ['to-site', 'to-learn', 'to-compare', 'to-buy'] as const;
export type Intent = (typeof INTENTS)[number];

export const INTENT_NAMES: Readonly<Record<Intent, string>> = {
  'to-site': 'to reach a site',
  'to-learn': 'to learn',
  'to-compare': 'to compare',
  'to-buy': 'to buy',
};
