import { AppLink } from '../kit/AppLink';
import { shortDay } from '@/core/words/format';
import type { Change } from '@/core/model/change';
import { DECISIONS } from '@/core/model/steps';
import { routes } from '../shell/routes';

/** The changes that follow one another, first to last, each with what was decided of it. */
export function Chain({ chain, own }: { chain: readonly Change[]; own: number }) {
  return (
    <ol aria-label="Its chain of changes" className="space-y-1">
      {chain.map(({ id, siteId, day, title, decision }) => (
        <li key={id} className="flex gap-3">
          <span className="muted w-14 shrink-0 tabular-nums">{shortDay(day)}</span>
          <span>
            {id === own ? (
              <b aria-current="true">{title}</b>
            ) : (
              <AppLink href={routes.change(siteId, id)} className="inline-link">
                {title}
              </AppLink>
            )}
            {decision && <span className="muted">, {DECISIONS[decision.decision].toLowerCase()}</span>}
          </span>
        </li>
      ))}
    </ol>
  );
}
