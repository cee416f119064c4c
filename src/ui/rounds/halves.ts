import type { Half, Round } from '@/core/model/round';
import { pagesOf } from '@/core/model/round';
import { PAGE_STEPS, type PageStep } from '@/core/model/round';
import type { Day } from '@/core/calendar/day';
import { shortDay } from '@/core/words/format';

const STEP_WORDS: Readonly<Record<PageStep, string>> = {
  made: 'made',
  'reindex-requested': 'reindex asked',
  crawled: 'crawled',
  'seen-in-results': 'seen in results',
};
export const stepWord = (step: PageStep): string => STEP_WORDS[step];

/** The steps of a page in words. @example "made 6 Oct, crawled 8 Oct" */
export function stepsText(steps: Readonly<Partial<Record<PageStep, Day>>>): string {
  return PAGE_STEPS.flatMap((step) =>
    steps[step] === undefined ? [] : [`${STEP_WORDS[step]} ${shortDay(steps[step])}`],
  ).join(', ');
}

/** How many pages of a half have come to each step, and when the last of them did. */
export function stepCounts(
  round: Round,
  half: Half,
): { step: PageStep; done: number; of: number; last: Day }[] {
  const pages = pagesOf(round, half);
  return PAGE_STEPS.flatMap((step) => {
    const days = pages.flatMap(({ steps }) => steps[step] ?? []);
    return days.length === 0
      ? []
      : [{ step, done: days.length, of: pages.length, last: Math.max(...days) as Day }];
  });
}
