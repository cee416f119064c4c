import type { OpeningDetail } from '../../../core/openings/named';
import type { OpeningsPart, OpeningsQuery } from '../../../services/openings/kept';
import { linksSeen, type LinksSeen } from '../../../services/pages/links';
import type { DraftReport } from '../../../core/wording/draft';
import type { Wordings, WordingSeen, WordingQuery } from '../../../services/wording/wordings';
import type { AnswerSources } from './sources';

/** Questions about where to work, and how to word it. */
export function openingAnswers({ contextOf, links, wordings, openings }: AnswerSources) {
  return {
    /** Some openings of a site, the best first; null where the site is gone or has no figures. */
    openings: async (asked: { siteId: number; wish: OpeningsQuery }): Promise<OpeningsPart | null> => {
      const context = contextOf(asked.siteId, null, asked.wish.span?.lastDay);
      return context && openings.part(context, asked.wish);
    },

    /** One opening with what its pane shows; null where it is no longer one. */
    opening: async (asked: { siteId: number; key: string }): Promise<OpeningDetail | null> => {
      const context = contextOf(asked.siteId);
      return context && openings.detail(context, asked.key);
    },

    /** What links to a page, and what could, with the pages; null where the site is gone or the page was not fetched. */
    links: ({ siteId, pageId }: { siteId: number; pageId: number }): LinksSeen | null => {
      const context = contextOf(siteId);
      return context && linksSeen(context, links, pageId);
    },

    /** What a result page has in common; null where the site has none of that number. */
    wording: async (asked: { siteId: number; wish: WordingQuery }): Promise<WordingSeen | null> => {
      const context = contextOf(asked.siteId);
      return context && wordings.of(context, asked.wish);
    },

    /** Drafts held against a result page; null where the site has none of that number. */
    drafts: async (asked: {
      siteId: number;
      wish: Parameters<Wordings['drafts']>[1];
    }): Promise<DraftReport[] | null> => {
      const context = contextOf(asked.siteId);
      return context && wordings.drafts(context, asked.wish);
    },
  };
}
