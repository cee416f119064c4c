import type { Day } from '../calendar/day';
import { mediumDay } from '../words/format';

/** A title as it was found, and when. */
export type DatedTitle = { readonly title: string; readonly day: Day };

export type TitleCheckInput = {
  readonly onPage: DatedTitle | null;
  readonly inResults: DatedTitle | null;
  /** Titles that the page had before the one it has now, by its snapshots and changes. */
  readonly earlier: readonly string[];
};

/** How the title on a page and the one in the results stand to each other. */
export type TitleState = 'same' | 'results-old' | 'page-old' | 'reworded' | 'not-looked';
export type TitleCheck = { readonly state: TitleState; readonly sentence: string };

/**
 * Which of two titles is old. The results’ title is, if the page had it earlier; the page’s is, if
 * results show a title that the page should have by now (`meant`, from its last change). A title
 * that results cut short counts as the same.
 */
export function titleCheck(
  { onPage, inResults, earlier }: TitleCheckInput,
  meant: string | null,
): TitleCheck {
  if (!onPage && !inResults)
    return { state: 'not-looked', sentence: 'Nobody has looked at the page or at the results yet.' };
  if (!onPage) return { state: 'not-looked', sentence: 'Nobody has looked at the page yet.' };
  if (!inResults) {
    const late = meant !== null && !isSame(meant, onPage.title);
    return {
      state: late ? 'page-old' : 'not-looked',
      sentence: late ? 'The page does not have the new title.' : 'Nobody has looked at the results yet.',
    };
  }
  const when = `seen ${mediumDay(inResults.day)}`;
  if (isSame(inResults.title, onPage.title)) {
    if (meant !== null && !isSame(meant, onPage.title))
      return { state: 'page-old', sentence: 'Page and results say the same, but not the new title.' };
    return { state: 'same', sentence: `The results show the title of the page, ${when}.` };
  }
  if (meant !== null && isSame(inResults.title, meant))
    return {
      state: 'page-old',
      sentence: `The page is old: the results show the new title (${when}), and the page does not have it.`,
    };
  if (earlier.some((title) => isSame(inResults.title, title)))
    return { state: 'results-old', sentence: `The results are old: they show an earlier title, ${when}.` };
  return {
    state: 'reworded',
    sentence: `The results word it in their own way (${when}), as neither the page nor an earlier title does.`,
  };
}

/** Whether a title is another one, or the beginning of it that the results had room for. */
export function isSame(shown: string, title: string): boolean {
  const plain = (text: string) => text.normalize('NFC').replace(/\s+/g, ' ').trim();
  const [a, b] = [plain(shown), plain(title)];
  const cut = /^(.{10,}?)\s*(?:…|\.\.\.)$/u.exec(a);
  return a === b || (cut !== null && b.startsWith(cut[1]!));
}
