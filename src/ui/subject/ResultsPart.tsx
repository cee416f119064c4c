import { AppLink } from '../kit/AppLink';
import type { Day } from '@/core/calendar/day';
import type { ResultsEvent } from '@/core/wording/days';
import { mediumDay, shortDay } from '@/core/words/format';
import { routes } from '../shell/routes';
import { FormLink } from '../shell/May';

type Props = {
  siteId: number;
  query: string;
  /** The days on which its results were looked at, the newest first, and the rank of the site on each. */
  looks: readonly { readonly id: number; readonly day: Day; readonly rank: number | null }[];
  events: readonly ResultsEvent[];
};

/** The looks at the results of a query, and what happened on them between one and the next. */
export function ResultsPart({ siteId, query, looks, events }: Props) {
  const bring = (
    <FormLink right="edit" href={routes.newResultPage(siteId, query)} className="inline-link">
      Bring results in
    </FormLink>
  );
  if (looks.length === 0) return <p>Its results have not been looked at. {bring}</p>;
  return (
    <>
      <p>
        Looked at on{' '}
        {looks.slice(0, 6).map(({ id, day, rank }, i) => (
          <span key={id}>
            {i > 0 && ', '}
            <AppLink href={routes.resultPage(siteId, id)} className="inline-link">
              {shortDay(day)}
            </AppLink>{' '}
            <span className="muted">({rank === null ? 'not among them' : `at ${rank}`})</span>
          </span>
        ))}
        . {bring}
      </p>
      {events.length > 0 && (
        <ul className="mt-1">
          {[...events].reverse().map(({ from, to, text }) => (
            <li key={`${to} ${text}`}>
              <span className="muted">
                {shortDay(from)} to {mediumDay(to)}:
              </span>{' '}
              {text}
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
