import type { Day } from '../calendar/day';

/** A heading as it stands on a page: its level, 1 to 6, and its text. */
export type Heading = { readonly level: number; readonly text: string };

/** One block of JSON-LD: the types it names, and why it cannot be read, where it cannot. */
export type StructuredData = { readonly types: readonly string[]; readonly problem: string | null };

/** What a page says, as it was served. Lists and texts are cut where a page is larger than any reader would go. */
export type PageEvidence = {
  readonly status: number;
  /** Where it was found in the end, after redirects. */
  readonly finalAddress: string;
  readonly title: string | null;
  readonly description: string | null;
  readonly canonical: string | null;
  /** Directives for robots, of the page and of its headers, in lower case. */
  readonly robots: readonly string[];
  readonly headings: readonly Heading[];
  readonly structuredData: readonly StructuredData[];
  /** Words of the main text. */
  readonly words: number;
  /** The main text, a line for each of its blocks, headings among them. */
  readonly text: string;
  /** Addresses of the same site that it links to, each once. */
  readonly links: readonly string[];
  readonly images: number;
  /** Addresses of images without an alternative text. An empty one is a text: it says that the image says nothing. */
  readonly imagesWithoutAlt: readonly string[];
  /** The encoding by which it was read, and how many characters of it made no sense in that. */
  readonly encoding: string;
  readonly misfits: number;
};

/** A page as it was found on a day (and at an instant, ISO 8601, UTC), and found the same again until another. */
export type Snapshot = {
  readonly id: number;
  readonly siteId: number;
  readonly pageId: number;
  readonly day: Day;
  readonly lastDay: Day;
  readonly takenAt: string;
  readonly lastSeenAt: string;
  readonly evidence: PageEvidence;
};
