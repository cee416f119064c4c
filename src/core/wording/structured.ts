/* Structured data that a page could carry: JSON-LD 1.1 made from what the page says. */

import type { PageEvidence } from '../model/evidence';

/** Types that can be made of what a page says. */
export const SUGGESTED_TYPES = [
  'FAQPage',
  'Article',
  'Product',
  'HowTo',
  'BreadcrumbList',
  'WebPage',
] as const;
export type SuggestedType = (typeof SUGGESTED_TYPES)[number];

/** A block to copy, and why it is suggested. Square brackets mark what to fill in. */
export type SuggestedData = {
  readonly type: SuggestedType;
  readonly reason: string;
  readonly json: string;
  readonly toFillIn: readonly string[];
};

const QUESTION = /[?？]\s*$/;
/** So many of the other results have to show prices or stars for a page to be one of a product. */
const LEAST_SHOWN = 3;
const STEP = /^(?:step\s+)?\d{1,2}[.):]?\s+\S|^step\b/i;

/** The questions among the headings of a page, each with the text below it. */
export function questionsOf({
  headings,
  text,
}: Pick<PageEvidence, 'headings' | 'text'>): { question: string; answer: string }[] {
  return sectionsOf(headings, text)
    .filter(({ heading, body }) => QUESTION.test(heading) && body !== '')
    .map(({ heading, body }) => ({ question: heading, answer: body }));
}

/** Headings with the lines of the main text below each. */
function sectionsOf(headings: PageEvidence['headings'], text: string): { heading: string; body: string }[] {
  const lines = text.split('\n');
  let from = 0;
  const places = headings.flatMap(({ text: heading }) => {
    const at = lines.indexOf(heading, from);
    if (at < 0) return [];
    from = at + 1;
    return [{ heading, at }];
  });
  return places.map(({ heading, at }, i) => ({
    heading,
    body: lines
      .slice(at + 1, places[i + 1]?.at ?? lines.length)
      .join(' ')
      .slice(0, 2000),
  }));
}

/**
 * Structured data that a page could carry and doesn’t, what rivals’ results show first.
 *
 * @param shown how many other results show ratings, prices, or questions and answers
 */
export function suggestedData(
  page: PageEvidence,
  {
    siteName,
    shown,
  }: {
    readonly siteName: string;
    readonly shown: { readonly stars: number; readonly price: number; readonly answers: number };
  },
): SuggestedData[] {
  const there = new Set(page.structuredData.flatMap(({ types }) => types));
  const found: (SuggestedData & { weight: number })[] = [];
  const add = (type: SuggestedType, weight: number, reason: string, body: Record<string, unknown>) => {
    if (there.has(type)) return;
    const json = JSON.stringify({ '@context': 'https://schema.org', '@type': type, ...body }, null, 2);
    const toFillIn = [...new Set([...json.matchAll(/"\[([^\]"]+)\]"/g)].map(([, name]) => name!))];
    found.push({ type, weight, reason, json, toFillIn });
  };
  const address = page.canonical ?? page.finalAddress;
  const heading = page.headings.find(({ level }) => level === 1)?.text ?? page.title ?? '';
  const questions = questionsOf(page);
  if (questions.length >= 2)
    add(
      'FAQPage',
      3 + shown.answers,
      `${questions.length} of its headings are questions${shown.answers > 0 ? `, and ${shown.answers} of the other results show answers` : ''}.`,
      {
        mainEntity: questions.map(({ question, answer }) => ({
          '@type': 'Question',
          name: question,
          acceptedAnswer: { '@type': 'Answer', text: answer },
        })),
      },
    );
  const steps = page.headings.filter(({ level, text }) => level > 1 && STEP.test(text));
  if (steps.length >= 3)
    add('HowTo', 2, `${steps.length} of its headings are steps.`, {
      name: heading,
      step: steps.map(({ text }, i) => ({ '@type': 'HowToStep', position: i + 1, name: text })),
    });
  if (shown.price + shown.stars >= LEAST_SHOWN || there.has('Offer'))
    add('Product', 1 + shown.price + shown.stars, productReason(shown), {
      name: heading,
      ...(page.description ? { description: page.description } : {}),
      offers: { '@type': 'Offer', price: '[price]', priceCurrency: '[currency]', url: address },
    });
  const trail = trailOf(address, siteName, heading);
  if (trail.length > 2)
    add('BreadcrumbList', 1, 'Its address lies below others of the site.', {
      itemListElement: trail.map(({ name, item }, i) => ({
        '@type': 'ListItem',
        position: i + 1,
        name,
        item,
      })),
    });
  if (page.words >= 300 && !there.has('Product') && shown.price === 0)
    add('Article', 0.5, 'It is a text of some length.', {
      headline: heading.slice(0, 110),
      ...(page.description ? { description: page.description } : {}),
      mainEntityOfPage: address,
      datePublished: '[day of publication]',
      author: { '@type': 'Organization', name: siteName },
    });
  if (there.size === 0 && found.length === 0)
    add('WebPage', 0, 'It carries no structured data at all.', {
      name: heading,
      url: address,
      ...(page.description ? { description: page.description } : {}),
    });
  return found
    .sort((a, b) => b.weight - a.weight)
    .map(({ type, reason, json, toFillIn }) => ({ type, reason, json, toFillIn }));
}

function productReason({ price, stars }: { price: number; stars: number }): string {
  const parts = [
    price > 0 ? `${price} of the other results show a price` : '',
    stars > 0 ? `${stars} show stars` : '',
  ];
  return `${parts.filter(Boolean).join(' and ')}.`;
}

/** The site, the parts of the path, and the page itself. */
function trailOf(address: string, siteName: string, heading: string): { name: string; item: string }[] {
  if (!URL.canParse(address)) return [];
  const { origin, pathname } = new URL(address);
  const parts = pathname.split('/').filter(Boolean);
  return [
    { name: siteName, item: `${origin}/` },
    ...parts.map((part, i) => ({
      name: i === parts.length - 1 && heading !== '' ? heading : nameOfPart(part),
      item: `${origin}/${parts.slice(0, i + 1).join('/')}${pathname.endsWith('/') || i < parts.length - 1 ? '/' : ''}`,
    })),
  ];
}

function nameOfPart(part: string): string {
  const plain = part.replaceAll(/[-_]+/g, ' ').replace(/\.\w+$/, '');
  return plain.charAt(0).toUpperCase() + plain.slice(1);
}
