'use client';

import { useRouter } from 'next/navigation';
import type { Act } from './attempt';
import { useToast } from './Toast';
import { useAct } from './useAct';

type Kind = 'change' | 'event' | 'feed' | 'results' | 'round' | 'report';

/** Something that was deleted, and when (ISO 8601, UTC). */
export type DeletedLine = {
  readonly kind: Kind;
  readonly id: number;
  readonly name: string;
  readonly deletedAt: string;
  readonly until: string;
};

type Props = {
  siteId: number;
  lines: readonly DeletedLine[];
  restore: Act<[siteId: number, kind: Kind, id: number]>;
};

/** What was deleted, the last first, each with one click to have it back. */
export function DeletedList({ siteId, lines, restore }: Props) {
  const router = useRouter();
  const say = useToast();
  const { busy, act } = useAct();
  const putBack = ({ kind, id, name }: DeletedLine) =>
    act(
      () => restore(siteId, kind, id),
      () => {
        say(`${name} is back.`);
        router.refresh();
      },
    );
  return (
    <table className="figures text-[0.93rem]">
      <thead>
        <tr>
          <th scope="col" className="text-left!">
            what
          </th>
          <th scope="col" className="text-left!">
            name
          </th>
          <th scope="col" className="text-left!">
            deleted, UTC
          </th>
          <th scope="col" className="text-left! max-sm:hidden">
            kept until
          </th>
          <th scope="col">
            <span className="sr-only">what can be done</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => (
          <tr key={`${line.kind}-${line.id}`} data-row>
            <td className="text-left!">{line.kind}</td>
            <td className="max-w-120 text-left! whitespace-normal!">{line.name}</td>
            <td className="text-left!">
              {line.deletedAt.slice(0, 10)}
              <span className="max-sm:hidden"> {line.deletedAt.slice(11, 16)}</span>
            </td>
            <td className="text-left! max-sm:hidden">{line.until}</td>
            <td>
              <button
                type="button"
                className="inline-link"
                disabled={busy}
                aria-label={`Put ${line.name} back`}
                onClick={() => putBack(line)}
              >
                Put back
              </button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
