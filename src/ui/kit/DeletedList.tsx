'use client';

import { useRouter } from 'next/navigation';
import type { Act } from './attempt';
import { useToast } from './Toast';
import { useAct } from './useAct';
import { FiguresTable } from './table/FiguresTable';

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
    <FiguresTable
      label="Deleted"
      className="text-[0.93rem]"
      rows={lines}
      rowKey={({ kind, id }) => `${kind}-${id}`}
      columns={[
        { id: 'what', text: true, cellClass: 'font-normal!', value: ({ kind }) => kind },
        { id: 'name', text: true, cellClass: 'max-w-120 whitespace-normal!', value: ({ name }) => name },
        {
          id: 'deleted, UTC',
          text: true,
          value: ({ deletedAt }) => deletedAt,
          cell: ({ deletedAt }) => (
            <>
              {deletedAt.slice(0, 10)}
              <span className="max-sm:hidden"> {deletedAt.slice(11, 16)}</span>
            </>
          ),
        },
        { id: 'kept until', text: true, className: 'max-sm:hidden', value: ({ until }) => until },
        {
          id: 'what can be done',
          hideHead: true,
          cell: (line) => (
            <button
              type="button"
              className="inline-link"
              disabled={busy}
              aria-label={`Put ${line.name} back`}
              onClick={() => putBack(line)}
            >
              Put back
            </button>
          ),
        },
      ]}
    />
  );
}
