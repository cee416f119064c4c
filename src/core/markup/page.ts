import { parse } from 'parse5';
import type { Heading, PageEvidence } from '../model/evidence';
import { wordCount } from './graphemes';
import { mainText } from './mainText';
import { readStructuredData } from './structuredData';
import { attribute, collapsed, HTML_NAMESPACE, rawText, textOf, walk, type Element } from './tree';

/** A page as it was served: its bytes already read as text. */
export type ServedPage = {
  readonly html: string;
  readonly status: number;
  readonly finalAddress: string;
  readonly encoding: string;
  /** The value of the header of that name (lower case); undefined where it is absent. */
  readonly header: (name: string) => string | undefined;
};

const LONGEST_TEXT = 200_000;
const LONGEST_LINE = 2000;
const MOST_HEADINGS = 500;
const MOST_LINKS = 2000;
const MOST_IMAGES = 200;
const MOST_BLOCKS = 50;

/**
 * The content of a page, parsed as the HTML standard has browsers parse it, however broken.
 * Relative URLs are resolved by its `base`. Links are internal if the host is the same, with or
 * without `www.`.
 */
export async function readPage(page: ServedPage): Promise<PageEvidence> {
  const document = parse(page.html);
  const found = new Finder(page.finalAddress);
  walk(document, { enter: (element) => found.look(element) });
  const text = mainText(document).slice(0, LONGEST_TEXT);
  const blocks = found.blocks.slice(0, MOST_BLOCKS);
  return {
    status: page.status,
    finalAddress: page.finalAddress,
    title: found.title?.slice(0, LONGEST_LINE) ?? null,
    description: found.description?.slice(0, LONGEST_LINE) ?? null,
    canonical: found.canonical ?? canonicalInHeader(page),
    robots: [...new Set([...found.robots, ...robotsInHeader(page.header('x-robots-tag') ?? '')])],
    headings: found.headings.slice(0, MOST_HEADINGS),
    structuredData: await Promise.all(blocks.map(readStructuredData)),
    words: wordCount(text),
    text,
    links: [...found.links].slice(0, MOST_LINKS),
    images: found.images,
    imagesWithoutAlt: found.imagesWithoutAlt.slice(0, MOST_IMAGES),
    encoding: page.encoding,
    misfits: page.html.split('\uFFFD').length - 1,
  };
}

/** Collects what matters on the way through a page. */
class Finder {
  title: string | null = null;
  description: string | null = null;
  canonical: string | null = null;
  readonly robots: string[] = [];
  readonly headings: Heading[] = [];
  readonly blocks: string[] = [];
  readonly links = new Set<string>();
  images = 0;
  readonly imagesWithoutAlt: string[] = [];
  private base: string;
  private readonly host: string;
  private baseSeen = false;

  constructor(address: string) {
    this.base = address;
    this.host = bareHost(new URL(address));
  }

  look(element: Element): void {
    // A `title` inside a drawing is that drawing's.
    if (element.namespaceURI !== HTML_NAMESPACE) return;
    const { tagName } = element;
    const value = (name: string) => attribute(element, name);
    if (/^h[1-6]$/.test(tagName)) {
      this.headings.push({
        level: Number(tagName[1]),
        text: textOf(element).slice(0, LONGEST_LINE),
      });
      return;
    }
    switch (tagName) {
      case 'title':
        this.title ??= collapsed(rawText(element));
        break;
      case 'base': {
        const href = this.resolve(value('href'));
        if (href && !this.baseSeen) [this.base, this.baseSeen] = [href.href, true];
        break;
      }
      case 'meta':
        this.meta(value('name')?.trim().toLowerCase(), value('content') ?? '');
        break;
      case 'link':
        if (/(?:^|\s)canonical(?:\s|$)/i.test(value('rel') ?? ''))
          this.canonical ??= this.resolve(value('href'))?.href ?? null;
        break;
      case 'script':
        if (/^\s*application\/ld\+json\s*(?:;|$)/i.test(value('type') ?? ''))
          this.blocks.push(rawText(element));
        break;
      case 'a':
      case 'area':
        this.link(this.resolve(value('href')));
        break;
      case 'img':
        this.images++;
        if (value('alt') === null) this.imagesWithoutAlt.push((value('src') ?? '').slice(0, LONGEST_LINE));
        break;
    }
  }

  private meta(name: string | undefined, content: string): void {
    if (name === 'description') this.description ??= collapsed(content);
    if (name === 'robots') this.robots.push(...directives(content));
  }

  private link(url: URL | null): void {
    if (!url || bareHost(url) !== this.host) return;
    url.hash = '';
    if (this.links.size < MOST_LINKS) this.links.add(url.href.slice(0, LONGEST_LINE));
  }

  private resolve(href: string | null): URL | null {
    if (href === null || !URL.canParse(href.trim(), this.base)) return null;
    const url = new URL(href.trim(), this.base);
    return url.protocol === 'http:' || url.protocol === 'https:' ? url : null;
  }
}

function bareHost({ host }: URL): string {
  return host.replace(/^www\./, '');
}

function directives(content: string): string[] {
  return content
    .toLowerCase()
    .split(',')
    .map((part) => collapsed(part))
    .filter((part) => part !== '')
    .slice(0, 50);
}

/** Directives that have a value after a colon; another word there names the robot that is meant. */
const WITH_VALUE = /^(?:max-[a-z-]+|unavailable_after)\s*:/;

/** The directives of the header for robots in general; those for one robot by name are not. */
function robotsInHeader(header: string): string[] {
  const all = directives(header);
  const named = all.findIndex((part) => part.includes(':') && !WITH_VALUE.test(part));
  return named < 0 ? all : all.slice(0, named);
}

/** The canonical address by a Link header (RFC 8288, RFC 6596). */
function canonicalInHeader({ header, finalAddress }: ServedPage): string | null {
  for (const [, target, parameters] of (header('link') ?? '').matchAll(/<([^>]*)>([^<]*)/g)) {
    if (/;\s*rel\s*=\s*"?[^";,]*\bcanonical\b/i.test(parameters!) && URL.canParse(target!, finalAddress))
      return new URL(target!, finalAddress).href;
  }
  return null;
}
