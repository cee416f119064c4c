'use client';

import { useRouter } from 'next/navigation';
import { count } from '@/core/words/format';
import type { Act } from '../kit/attempt';
import { useAct } from '../kit/useAct';
import { IfMay } from '../shell/May';
import { FiguresTable } from '../kit/table/FiguresTable';

type Facts = {
  readonly h1: readonly string[];
  readonly headings: number;
  readonly words: number;
  readonly types: readonly string[];
};
type Line = {
  readonly rank: number;
  readonly host: string;
  readonly own: boolean;
  readonly facts: Facts | null;
  readonly failure: string | null;
};

type Props = {
  siteId: number;
  resultPageId: number;
  lines: readonly Line[];
  look: Act<[siteId: number, id: number]>;
};

/** What the pages of the results say themselves: their H1s, how long they are and how many headings they have. */
export function RivalsPart({ siteId, resultPageId, lines, look }: Props) {
  const { act, busy } = useAct();
  const router = useRouter();
  const known = lines.filter(({ facts }) => facts !== null);
  const fetched = lines.filter(({ own, facts, failure }) => !own && (facts || failure)).length > 0;
  return (
    <>
      {!fetched ? (
        <p>
          Their pages have not been fetched. Each is asked for once, and only where its robots.txt allows it.
        </p>
      ) : (
        <FiguresTable
          label="Pages of the results"
          className="dense text-[0.85rem]"
          rows={lines}
          rowKey={({ rank }) => rank}
          rowClass={({ own }) => (own ? 'bg-base-300/60' : undefined)}
          columns={[
            { id: 'rank', lowFirst: true, value: ({ rank }) => rank },
            {
              id: 'H1',
              text: true,
              cellClass: 'max-w-80 truncate',
              cell: ({ host, facts, failure }) => (
                <span title={host}>
                  {facts ? facts.h1.join(' / ') || 'none' : (failure ?? 'not fetched')}
                </span>
              ),
            },
            {
              id: 'words',
              value: ({ facts }) => facts?.words ?? null,
              cell: ({ facts }) => facts && count(facts.words),
            },
            {
              id: 'headings',
              value: ({ facts }) => facts?.headings ?? null,
              cell: ({ facts }) => facts && count(facts.headings),
            },
          ]}
        />
      )}
      {known.length > 2 && <p className="muted mt-1 text-[0.85rem]">{comparedText(lines)}</p>}
      <IfMay right="edit">
        <button
          type="button"
          className="inline-link mt-1"
          disabled={busy}
          onClick={() => act(() => look(siteId, resultPageId), router.refresh)}
        >
          {busy ? 'Fetching …' : fetched ? 'Fetch their pages again' : 'Fetch their pages'}
        </button>
      </IfMay>
    </>
  );
}

function comparedText(lines: readonly Line[]): string {
  const words = lines.flatMap(({ own, facts }) => (own || !facts ? [] : [facts.words])).sort((a, b) => a - b);
  const own = lines.find((line) => line.own)?.facts?.words;
  const middle = words[Math.floor(words.length / 2)]!;
  return `Half of them have ${count(middle)} words or more${own === undefined ? '' : `; yours has ${count(own)}`}.`;
}
