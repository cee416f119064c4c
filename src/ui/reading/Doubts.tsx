import { AppLink } from '../kit/AppLink';
import type { Reading } from '@/core/reading/readingModel';
import { metricInText, netPercent, percentChange, plural, share } from '@/core/words/format';
import { routes } from '../shell/routes';

type Props = { reading: Reading };

/** Paths of the pages that make up the yardstick. */
type WithYardstick = Props & { yardstick: readonly string[] };

/** The reasons to doubt a reading, each with a link to what causes it. */
export function Doubts({ reading, yardstick }: WithYardstick) {
  const { cautions, compared, spans } = reading;
  return (
    <>
      <Spells reading={reading} />
      {cautions.length === 0 ? (
        <p>
          {spans.complete ? 'No other doubts: ' : 'No other doubts so far: '}
          no update, no season and no other change on these pages
          {compared && ', and no missing days'} in the spans.
        </p>
      ) : (
        <Cautions reading={reading} />
      )}
      <YearBefore reading={reading} />
      <YardstickPages paths={yardstick} />
    </>
  );
}

/** How often these pages moved as far when nobody touched them. */
function Spells({ reading: { swing, judged, yardstick, net, pages, movesWith } }: Props) {
  if (!swing || !net) return null;
  const several = pages.length > 1;
  const said =
    swing.spells === 0
      ? `${several ? 'These pages have' : 'This page has'} no ordinary spells yet to compare with; the site as a whole has to do.`
      : `${swing.asLarge} of ${swing.spells} ordinary spells of ${several ? 'these pages' : 'this page'} moved this much in ${metricInText(judged)} untouched.`;
  return (
    <p className="mb-1.5">
      <b>{said}</b>{' '}
      {yardstick && yardstick.pages > 0 && (
        <span className="muted">
          The yardstick is {plural(yardstick.pages, 'untouched page')}
          {yardstick.groupPages > 0 &&
            `, ${yardstick.groupPages} of them of its own group, which count for ${share(yardstick.groupWeight)}`}
          {yardstick.tracking !== null &&
            yardstick.tracking > 0 &&
            `; it takes away ${share(yardstick.tracking)} of the pages’ common swing`}
          .
          {movesWith &&
            ` ${several ? 'They move' : 'It moves'} with ${plural(movesWith.others, 'other')}${movesWith.mostly ? `, mostly ${movesWith.mostly}` : ''}.`}
        </span>
      )}
    </p>
  );
}

function YardstickPages({ paths }: { paths: readonly string[] }) {
  if (paths.length === 0) return null;
  return (
    <details className="mt-1.5 text-[0.85rem]">
      <summary>Which pages are the yardstick</summary>
      <ul className="muted mt-1 max-h-60 overflow-y-auto" tabIndex={0} aria-label="Pages of the yardstick">
        {paths.map((path) => (
          <li key={path}>{path}</li>
        ))}
      </ul>
    </details>
  );
}

/** What the same days did a year earlier: a second opinion on the season. */
function YearBefore({ reading: { yearBefore } }: Props) {
  if (!yearBefore) return null;
  return (
    <p className="muted mt-1.5">
      The same days a year earlier: clicks {percentChange(yearBefore.clicksRatio)}
      {yearBefore.netRatio !== null && `, net of the yardstick ${netPercent(yearBefore.netRatio)}`}.
    </p>
  );
}

function Cautions({ reading: { cautions, change } }: Props) {
  const { siteId } = change;
  return (
    <ul className="space-y-1.5">
      {cautions.map((caution) => (
        <li key={caution.code + caution.message} className="border-l-2 border-(--band) pl-2">
          {caution.message}
          {caution.eventId !== null && (
            <>
              {' '}
              <AppLink href={`${routes.almanac(siteId)}#event-${caution.eventId}`} className="inline-link">
                In the almanac
              </AppLink>
            </>
          )}
          {caution.changeId !== null && (
            <>
              {' '}
              <AppLink href={routes.change(siteId, caution.changeId)} className="inline-link">
                Its reading
              </AppLink>
            </>
          )}
        </li>
      ))}
    </ul>
  );
}
