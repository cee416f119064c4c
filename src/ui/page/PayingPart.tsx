import { AppLink } from '../kit/AppLink';
import type { TimedOpening } from '@/core/openings/named';
import { KINDS } from '@/core/openings/kinds';
import { count } from '@/core/words/format';
import { Part } from '../reading/HowTo';
import { routes } from '../shell/routes';

/** What would pay on a page; null while that is being worked out. */
export function PayingPart({
  siteId,
  openings,
}: {
  siteId: number;
  openings: readonly TimedOpening[] | null;
}) {
  if (openings?.length === 0) return null;
  return (
    <Part title="What would pay here">
      {openings === null && <p role="status">It is being worked out …</p>}
      <ul className="space-y-1">
        {openings?.map((opening) => (
          <li key={opening.key}>
            <AppLink
              href={`${routes.openings(siteId)}?open=${encodeURIComponent(opening.key)}`}
              className="inline-link"
            >
              {KINDS[opening.kind].name}
              {opening.query && `: “${opening.query.text}”`}
            </AppLink>{' '}
            <span className="muted">
              {opening.gain
                ? `${opening.expected ? `+${count(opening.expected.clicks)} clicks a month expected, up to ` : ''}+${count(opening.gain.clicks)} clicks a month if successful (${count(opening.gain.low)} to ${count(opening.gain.high)})`
                : opening.sentence}
            </span>
          </li>
        ))}
      </ul>
    </Part>
  );
}
