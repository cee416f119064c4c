import { isSame } from '@/core/markup/titleCheck';
import type { Worded } from '@/core/wording/resultPage';
import { Part } from '../reading/HowTo';

type Props = { of: Worded; onPage: string | null; shown: string | null };

/** The text on the page against the one that the results show. */
export function ShownPart({ of, onPage, shown }: Props) {
  if (shown === null) return null;
  if (onPage !== null && isSame(onPage, shown))
    return (
      <Part title={`Your ${of}, as it is shown`}>
        <p>The results show the {of} of the page as it is.</p>
      </Part>
    );
  return (
    <Part title={`Your ${of}, as it is shown`}>
      <dl className="grid grid-cols-[6rem_1fr] gap-x-3 gap-y-1">
        <dt className="muted">on the page</dt>
        <dd>{onPage ?? 'not known: it has not been fetched'}</dd>
        <dt className="muted">in the results</dt>
        <dd>{shown}</dd>
      </dl>
      {onPage !== null && (
        <p className="mt-1">
          {shown.endsWith('…') && onPage.startsWith(shown.slice(0, -1).trim())
            ? 'They show its beginning.'
            : `They show another one: an older ${of}, or one that they worded themselves.`}
        </p>
      )}
    </Part>
  );
}
