import type { Day } from '@/core/calendar/day';
import { isSame } from '@/core/markup/titleCheck';
import type { Worded } from '@/core/wording/resultPage';
import { mediumDay } from '@/core/words/format';
import { Part } from '../reading/HowTo';

type Props = {
  of: Worded;
  onPage: string | null;
  shown: string | null;
  /** What the page had before, and until when. */
  earlier: readonly { readonly text: string; readonly lastDay: Day }[];
};

/** The text on the page against the one that the results show, and which of them is old. */
export function ShownPart({ of, onPage, shown, earlier }: Props) {
  if (shown === null) return null;
  return (
    <Part title={`Your ${of}, as it is shown`}>
      {onPage !== null && isSame(onPage, shown) ? (
        <p>The results show the {of} of the page as it is.</p>
      ) : (
        <>
          <dl className="grid grid-cols-[6rem_1fr] gap-x-3 gap-y-1">
            <dt className="muted">on the page</dt>
            <dd>{onPage ?? 'not known: it has not been fetched'}</dd>
            <dt className="muted">in the results</dt>
            <dd>{shown}</dd>
          </dl>
          {onPage !== null && <p className="mt-1">{toldOf(of, onPage, shown, earlier)}</p>}
        </>
      )}
    </Part>
  );
}

function toldOf(of: Worded, onPage: string, shown: string, earlier: Props['earlier']): string {
  const start = shown.replace(/\s*(?:…|\.\.\.)$/, '');
  if (start !== shown && onPage.startsWith(start)) return `They show the beginning of the ${of} of the page.`;
  const old = earlier.find(({ text }) => isSame(text, shown) || (start !== shown && text.startsWith(start)));
  return old
    ? `They show the old ${of}: the page had it until ${mediumDay(old.lastDay)}.`
    : `The page was never seen with it, so the results worded it themselves, or from the text of the page.`;
}
