import { Actor } from '../kit/Actor';
import { AppLink } from '../kit/AppLink';
import { plural } from '@/core/words/format';

export type DeedLine = {
  readonly id: number;
  readonly at: string;
  readonly actor: string;
  /** The account of a person. */
  readonly actorId: string | null;
  readonly did: string;
  readonly times: number;
};

/** What was done to the thing that a screen shows, the last first, with a way to all of it. */
export function DeedsOf({
  deeds,
  total,
  all,
}: {
  deeds: readonly DeedLine[];
  total: number;
  /** Where all of them stand; null where they stand nowhere else. */
  all: string | null;
}) {
  if (total === 0) return null;
  return (
    <details className="mt-4 text-[0.93rem] print:hidden">
      <summary className="min-h-7 w-fit font-semibold">
        Who did what, {plural(total, 'entry', 'entries')}
      </summary>
      <ol className="mt-1 space-y-1">
        {deeds.map(({ id, at, actor, actorId, did, times }) => (
          <li key={id} className="flex flex-wrap gap-x-4">
            <span className="muted tabular-nums">{at.slice(0, 16).replace('T', ' ')} UTC</span>
            <span>
              {actor === '' ? (
                <span className="muted">alone here:</span>
              ) : (
                <Actor name={actor} id={actorId} />
              )}{' '}
              {did}
              {times > 1 && `, ${times} times`}
            </span>
          </li>
        ))}
      </ol>
      {all && (
        <p className="mt-1">
          <AppLink href={all} className="inline-link">
            In the list of the site
          </AppLink>
        </p>
      )}
    </details>
  );
}
