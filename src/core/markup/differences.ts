import { diffLines } from 'diff';
import type { PageEvidence, StructuredData } from '../model/evidence';
import { changeKindName } from '../model/change';

/** A part of a page in which two snapshots differ. */
export type Difference = {
  readonly aspect: Aspect;
  /** The kind of change that makes such a difference. */
  readonly kind: string;
  /** What stood there before and what after; null where nothing did. */
  readonly before: string | null;
  readonly after: string | null;
};

/** The compared parts of a page, with names and the change types that affect them. */
export const ASPECTS = {
  title: { name: 'Title', kind: 'title-rewrite' },
  description: { name: 'Meta description', kind: 'meta-description' },
  headings: { name: 'Headings', kind: 'headings' },
  text: { name: 'Main text', kind: 'body-copy' },
  structuredData: { name: 'Structured data', kind: 'structured-data' },
  robots: { name: 'Robots directives', kind: 'indexing-directives' },
  canonical: { name: 'Canonical address', kind: 'address-or-redirect' },
  finalAddress: { name: 'Final address', kind: 'address-or-redirect' },
  status: { name: 'Status', kind: 'address-or-redirect' },
  links: { name: 'Links to the same site', kind: 'internal-links' },
  images: { name: 'Images without alternative text', kind: 'media' },
} as const;
export type Aspect = keyof typeof ASPECTS;

/** The aspects of a page as texts, so that they can be compared and shown word by word. */
function asText(page: PageEvidence): Record<Aspect, string | null> {
  const headings = new Set(page.headings.map(({ text }) => text));
  return {
    title: page.title,
    description: page.description,
    headings: lines(page.headings.map(({ level, text }) => `H${level} ${text}`)),
    // Headings are compared by themselves.
    text: lines(page.text.split('\n').filter((line) => !headings.has(line))),
    structuredData: lines(page.structuredData.map(inWords)),
    robots: lines(page.robots),
    canonical: page.canonical,
    finalAddress: page.finalAddress,
    status: String(page.status),
    links: lines([...page.links].sort()),
    images: lines([...page.imagesWithoutAlt].sort()),
  };
}

function inWords({ types, problem }: StructuredData): string {
  return `${types.join(', ') || 'no type'}${problem === null ? '' : `: ${problem}`}`;
}

function lines(list: readonly string[]): string | null {
  return list.length === 0 ? null : list.join('\n');
}

/** Aspects of which only the lines that went or came are given: the whole would bury them. */
const BY_LINES: ReadonlySet<Aspect> = new Set(['text', 'links', 'images', 'headings']);

/**
 * Differences between two snapshots of a page, in the order of aspects. The order of links or
 * images doesn’t matter.
 */
export function differencesBetween(before: PageEvidence, after: PageEvidence): Difference[] {
  const [old, now] = [asText(before), asText(after)];
  return (Object.keys(ASPECTS) as Aspect[]).flatMap((aspect): Difference[] => {
    const [a, b] = [old[aspect], now[aspect]];
    if (a === b) return [];
    const { kind } = ASPECTS[aspect];
    return [{ aspect, kind, ...(BY_LINES.has(aspect) ? changedLines(a, b) : { before: a, after: b }) }];
  });
}

function changedLines(before: string | null, after: string | null): Pick<Difference, 'before' | 'after'> {
  const pieces = diffLines(`${before ?? ''}\n`, `${after ?? ''}\n`);
  const side = (which: 'added' | 'removed') => {
    const text = pieces
      .filter((piece) => piece[which])
      .map(({ value }) => value)
      .join('')
      .trim();
    return text === '' ? null : text;
  };
  return { before: side('removed'), after: side('added') };
}

/** Words that may change without anybody’s work: a date, a number in stock. */
const IDLE_WORDS = 4;

/** Whether a difference looks like somebody’s work, not like a page that counts or dates itself. */
export function isWork({ aspect, before, after }: Difference): boolean {
  if (aspect !== 'text') return true;
  const words = (text: string | null) => (text ?? '').split(/\s+/).filter(Boolean);
  const [old, now] = [words(before), words(after)];
  const [kept, came] = [new Set(now), new Set(old)];
  const changed = Math.max(
    old.filter((word) => !kept.has(word)).length,
    now.filter((word) => !came.has(word)).length,
  );
  return changed > IDLE_WORDS;
}

/** Differences named by their kinds of change, each once. @example "Title rewrite, Headings" */
export function kindsOf(differences: readonly Difference[]): string {
  return [...new Set(differences.map(({ kind }) => changeKindName(kind)))].join(', ');
}
