/* What a search is after, guessed by its words. */

import { wordsOf } from './find';
import type { Intent } from '../model/intents';
import type { Language } from '../model/languages';

/** Words that give an intent away: those that tell one from a search for the site itself, which has its own. */
export type IntentWords = Readonly<Record<Exclude<Intent, 'to-site'>, readonly string[]>>;

const words = (text: string) => text.split(' ');

/** Words that give an intent away, by language: common practice, no published source. */
export const INTENT_WORDS: Readonly<Record<Language, IntentWords>> = {
  en: {
    'to-compare': words('best vs versus compare comparison review reviews top alternative alternatives'),
    'to-buy': words('buy price prices cheap sale shop store order delivery discount cost supplier'),
    'to-learn': words('how what why when where which who guide tutorial ideas meaning learn tips'),
  },
  de: {
    'to-compare': words(
      'beste besten bester bestes vergleich vergleichen test tests oder alternative alternativen',
    ),
    'to-buy': words('kaufen preis preise günstig billig shop bestellen lieferung rabatt kosten angebot'),
    'to-learn': words('wie was warum wann wo welche welcher wer anleitung ideen bedeutung lernen tipps'),
  },
  fr: {
    'to-compare': words('meilleur meilleure meilleurs comparatif comparer avis test ou alternative'),
    'to-buy': words('acheter prix pas cher promo boutique commander livraison coût vente'),
    'to-learn': words(
      'comment quoi pourquoi quand où quel quelle qui guide tutoriel idées signification conseils',
    ),
  },
  es: {
    'to-compare': words('mejor mejores comparar comparativa opiniones reseña o alternativa'),
    'to-buy': words('comprar precio precios barato oferta tienda pedir envío descuento coste venta'),
    'to-learn': words('cómo como qué por cuándo dónde cuál quién guía ideas significado aprender consejos'),
  },
  it: {
    'to-compare': words('migliore migliori confronto confrontare recensione recensioni o alternativa'),
    'to-buy': words(
      'comprare acquistare prezzo prezzi economico offerta negozio ordinare spedizione sconto costo',
    ),
    'to-learn': words('come cosa perché quando dove quale chi guida idee significato imparare consigli'),
  },
};

/**
 * The likely intent of a query; null if no word signals one. Brand queries are navigational;
 * comparisons stay comparisons even with words for buying.
 *
 * @example intentOf('best hive for beginners', false) // "to-compare"
 */
export function intentOf(
  query: string,
  brand: boolean,
  telling: IntentWords = INTENT_WORDS.en,
): Intent | null {
  if (brand) return 'to-site';
  const said = new Set(wordsOf(query));
  for (const intent of ['to-compare', 'to-buy', 'to-learn'] as const)
    if (telling[intent].some((word) => said.has(word))) return intent;
  return null;
}
