import Link from 'next/link';
import { boundPercent, mediumDay, netPercent, spanText } from '@/core/words/format';
import type { ShiftSeen } from '@/core/shifts/seen';
import { Part } from '../reading/HowTo';
import { routes } from '../shell/routes';

type Props = { siteId: number; shifts: readonly ShiftSeen[]; what: string };

/** When a level shifted, by how much, and what happened near it. */
export function ShiftsPart({ siteId, shifts, what }: Props) {
  return (
    <Part
      title="When did it move?"
      howTo="Days at which the level of clicks changed and stayed changed, net of what the rest of the site did. The days in brackets hold the true one about nine times in ten. Slow drift is no shift; of few clicks nothing can be told."
    >
      {shifts.length === 0 ? (
        <p>
          No step in its clicks that the rest of the site did not share: {what} only drifted, or has too few
          clicks.
        </p>
      ) : (
        <ul className="space-y-1.5">
          {[...shifts].reverse().map((shift) => (
            <li key={shift.day}>
              <b>{mediumDay(shift.day)}</b> <span className="muted">({spanText(shift)})</span>:{' '}
              {shift.ratio > 1 ? 'rose' : 'fell'} by {netPercent(shift.ratio)}, {boundPercent(shift.low)} to{' '}
              {boundPercent(shift.high)}.{' '}
              {shift.near.length === 0 ? (
                <span className="muted">Nothing is known to have happened near it.</span>
              ) : (
                <span>
                  Near it:{' '}
                  {shift.near.slice(0, 4).map((near, i) => (
                    <span key={`${near.kind}/${near.day}/${near.text}`}>
                      {i > 0 && '; '}
                      {near.id === null ? (
                        near.text
                      ) : (
                        <Link
                          href={
                            near.kind === 'event'
                              ? routes.event(siteId, near.id)
                              : routes.change(siteId, near.id)
                          }
                          prefetch={false}
                          className="inline-link"
                        >
                          {near.text}
                        </Link>
                      )}{' '}
                      <span className="muted">{mediumDay(near.day)}</span>
                    </span>
                  ))}
                </span>
              )}
            </li>
          ))}
        </ul>
      )}
    </Part>
  );
}
