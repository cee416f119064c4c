import { AppLink } from '../kit/AppLink';
import { boundShare, mediumDay, spanText } from '@/core/words/format';
import type { ShiftSeen } from '@/core/shifts/seen';
import { Part } from '../reading/HowTo';
import { routes } from '../shell/routes';

type Props = { siteId: number; shifts: readonly ShiftSeen[]; what: string; whole?: boolean };

/** When a level shifted, by how much, and what happened near it. */
export function ShiftsPart({ siteId, shifts, what, whole = false }: Props) {
  return (
    <Part
      title="When did it move?"
      howTo="Days at which the level of clicks changed and stayed changed, net of what the rest of the site did. The days in brackets hold the true one about nine times in ten. Slow drift is no shift; of few clicks nothing can be told."
    >
      {shifts.length === 0 ? (
        <p>
          {whole
            ? 'No step in its clicks: it only drifted.'
            : `No step in its clicks that the rest of the site did not share: ${what} only drifted, or has too few clicks.`}
        </p>
      ) : (
        <ShiftLines siteId={siteId} shifts={shifts} />
      )}
    </Part>
  );
}

/** Shifts, the newest first, each with what happened near it. */
export function ShiftLines({ siteId, shifts }: Pick<Props, 'siteId' | 'shifts'>) {
  return (
    <ul className="space-y-1.5">
      {[...shifts].reverse().map((shift) => (
        <li key={shift.day}>
          <b>{mediumDay(shift.day)}</b> <span className="muted">({spanText(shift)})</span>: {stepText(shift)}{' '}
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
                    <AppLink
                      href={
                        near.kind === 'event' ? routes.event(siteId, near.id) : routes.change(siteId, near.id)
                      }
                      className="inline-link"
                    >
                      {near.text}
                    </AppLink>
                  )}{' '}
                  <span className="muted">{mediumDay(near.day)}</span>
                </span>
              ))}
            </span>
          )}
        </li>
      ))}
    </ul>
  );
}

/** A step in words, with its range, the smaller end first. @example "fell by 44%, 37% to 51%." */
function stepText({ ratio, low, high }: ShiftSeen): string {
  const by = `${Math.round(Math.abs(ratio - 1) * 100)}%`;
  const [least, most] = ratio > 1 ? [low, high] : [high, low];
  // A range that reaches past no change at all is told with its signs.
  if (least > 1 !== ratio > 1) return `${ratio > 1 ? 'rose' : 'fell'} by ${by}, or hardly at all.`;
  return `${ratio > 1 ? 'rose' : 'fell'} by ${by}, ${boundShare(least)} to ${boundShare(most)}.`;
}
