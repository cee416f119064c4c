import Link from 'next/link';
import type { Reading } from '@/core/reading/model';
import { routes } from '../shell/routes';

type Props = { reading: Reading };

/** The reasons to doubt a reading, each with a link to what causes it. */
export function Doubts({ reading }: Props) {
  const { cautions, compared, spans } = reading;
  const { siteId } = reading.change;
  if (cautions.length === 0) {
    return (
      <p>
        {spans.complete ? 'None of those that can be known yet: ' : 'None so far: '}
        no update and no other change on these pages{compared && ', and no missing days'} in the spans.
      </p>
    );
  }
  return (
    <ul className="space-y-1.5">
      {cautions.map((caution) => (
        <li key={caution.code + caution.message} className="border-l-2 border-(--band) pl-2">
          {caution.message}
          {caution.eventId !== null && (
            <>
              {' '}
              <Link
                href={`${routes.almanac(siteId)}#event-${caution.eventId}`}
                prefetch={false}
                className="inline-link"
              >
                In the almanac
              </Link>
            </>
          )}
          {caution.changeId !== null && (
            <>
              {' '}
              <Link href={routes.change(siteId, caution.changeId)} prefetch={false} className="inline-link">
                Its reading
              </Link>
            </>
          )}
        </li>
      ))}
    </ul>
  );
}
