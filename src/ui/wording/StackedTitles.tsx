import type { CSSProperties } from 'react';
import { RESULT_KIND_NAMES } from '@/core/wording/resultPage';
import type { Stacked } from '@/core/wording/stacked';
import type { WordedResult } from '@/core/wording/wording';

type Props = { results: readonly WordedResult[]; lined: boolean };

/** The texts of the results one above the other, shared words underlined: whole where most say them, dotted where some do. */
export function StackedTitles({ results, lined }: Props) {
  const width = Math.min(
    30,
    Math.max(
      0,
      ...results.map(({ stacked }) => leadOf(stacked).reduce((sum, { text }) => sum + text.length, 0)),
    ),
  );
  return (
    <ol className="text-[0.9rem]">
      {results.map(({ result, own, kind, stacked, measured }) => (
        <li
          key={result.rank}
          className={`hairline flex items-baseline gap-2 border-b py-1 ${own ? 'bg-base-300/60 font-semibold' : ''}`}
        >
          <span className="w-6 shrink-0 pl-1 font-serif text-base-content/70 tabular-nums">
            {result.rank}
          </span>
          <span className={`min-w-0 flex-1 ${lined ? 'sm:flex' : ''}`}>
            {lined ? (
              <>
                <span
                  className="shrink-0 justify-end overflow-hidden sm:flex sm:w-(--lead)"
                  style={{ '--lead': `${width * 0.5 + 0.5}em` } as CSSProperties}
                  title={result.title}
                >
                  <span className="sm:whitespace-pre">
                    <Pieces pieces={leadOf(stacked)} of={results.length} />
                  </span>
                </span>
                <span className="min-w-0 overflow-hidden text-ellipsis sm:whitespace-pre">
                  <Pieces pieces={stacked.pieces.slice(Math.max(0, stacked.pivot))} of={results.length} />
                </span>
              </>
            ) : (
              <Pieces pieces={stacked.pieces} of={results.length} />
            )}
          </span>
          <span className="muted max-w-40 shrink-0 text-right text-[0.75rem] font-normal">
            {[
              ...new Set([
                own ? 'own' : RESULT_KIND_NAMES[kind],
                ...result.extras,
                ...(measured.cut.desktop === null ? [] : ['cut']),
              ]),
            ].join(' · ')}
          </span>
        </li>
      ))}
    </ol>
  );
}

/** What stands before the word at which the title is lined up. */
function leadOf({ pieces, pivot }: Stacked): Stacked['pieces'] {
  return pivot <= 0 ? [] : pieces.slice(0, pivot);
}

function Pieces({ pieces, of }: { pieces: Stacked['pieces']; of: number }) {
  return pieces.map(({ text, results }, i) =>
    results < 2 ? (
      <span key={i}>{text}</span>
    ) : (
      <span
        key={i}
        title={`${results} of ${of} say it`}
        className={`underline decoration-2 underline-offset-3 ${results * 2 >= of ? '' : 'decoration-dotted'}`}
      >
        {text}
      </span>
    ),
  );
}
