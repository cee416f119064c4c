import type { ChangeSpans } from '../calendar/span';
import type { LedgerEntry } from './ledgerEntry';

/** One of the changes of a page, read against the spans that belong to it alone. */
export type ChainLink = {
  readonly entry: LedgerEntry;
  readonly spans: ChangeSpans;
  /** The next change of the page, where that cuts its after span short; null where it does not. */
  readonly cutBy: string | null;
  /** No week of its own was left to it. */
  readonly tooShort: boolean;
};

/** The changes of a page, newest first, and all of them together, from before the first. */
export type PageChain = {
  readonly links: readonly ChainLink[];
  readonly whole: { readonly entry: LedgerEntry; readonly spans: ChangeSpans } | null;
};
