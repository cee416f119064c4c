import { earningQueries, type Visited } from '@/core/openings/earned';
import { columnValue } from '@/core/lists/written';
import { count, metricDifference, plural } from '@/core/words/format';
import { Part } from '../reading/HowTo';

type Props = {
  now: Visited;
  before: Visited | null;
  days: string;
  /** The device the screen is narrowed to; empty for all. Visits are not divided by it. */
  device?: string;
  queries: readonly { readonly query: string; readonly clicks: number }[];
};

const MOST_SEARCHES = 3;

/** What the visits of a landing page come to, and which searches bring it. */
export function EarnsPart({ now, before, days, device = '', queries }: Props) {
  const earning = earningQueries(queries, now).slice(0, MOST_SEARCHES);
  const figures = [
    ['sessions', 'sessions', now.sessions, before?.sessions],
    ['conversions', 'conversions', now.conversions, before?.conversions],
    ['revenue', 'revenue', now.revenue, before?.revenue],
  ] as const;
  return (
    <Part
      title="What it earns"
      howTo="From landing-page figures. A search’s share is its clicks over the sessions of the page: a rule of the trade, since no source says which search a buyer came by."
    >
      <p>
        {figures.flatMap(([name, column, value, was]) =>
          value === null
            ? []
            : [
                <span key={name} className="mr-5">
                  <span className="muted text-[0.85rem]">{name}</span> <b>{columnValue(column, value)}</b>{' '}
                  {was != null && (
                    <span className="muted text-[0.85rem]">{metricDifference('clicks', value - was)}</span>
                  )}
                </span>,
              ],
        )}
        {now.engaged !== null && now.sessions > 0 && (
          <span className="muted text-[0.85rem]">
            {Math.round((100 * now.engaged) / now.sessions)}% engaged
          </span>
        )}
      </p>
      {device !== '' && (
        <p className="muted text-[0.85rem]">
          For all devices: the imported files do not split visits by device.
        </p>
      )}
      {earning.length > 0 && (
        <ul className="mt-1">
          {earning.map(({ query, clicks, share, conversions, revenue }) => (
            <li key={query}>
              “{query}” brings about {Math.round(share * 100)}% of it{' '}
              <span className="muted">
                ({plural(clicks, 'click')} to {plural(now.sessions, 'session')}
                {conversions !== null && `, ${conversions.toFixed(1)} conversions`}
                {revenue !== null && `, ${count(revenue)} in revenue`})
              </span>
            </li>
          ))}
        </ul>
      )}
      <p className="muted mt-0.5 text-[0.85rem]">{days}</p>
    </Part>
  );
}
