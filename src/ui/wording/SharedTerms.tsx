'use client';

import { useRouter } from 'next/navigation';
import type { Term } from '@/core/wording/terms';
import type { Act } from '../kit/attempt';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';
import { IfMay } from '../shell/May';

type LeftOut = { readonly term: string; readonly written: string };

type Props = {
  siteId: number;
  terms: readonly Term[];
  /** How many results are compared. */
  of: number;
  /** Whether there is a text of one's own that could say them. */
  own: boolean;
  leftOut: readonly LeftOut[];
  leaveOut: Act<[siteId: number, term: LeftOut, out: boolean]>;
};

const MOST_SHOWN = 12;

/** What the results share, as thin bars: solid what one's own text says, hatched what it does not. */
export function SharedTerms({ siteId, terms, of, own, leftOut, leaveOut }: Props) {
  const { act, busy } = useAct();
  const say = useToast();
  const router = useRouter();
  const put = (term: LeftOut, out: boolean) =>
    act(
      () => leaveOut(siteId, term, out),
      () => {
        router.refresh();
        say(
          out ? `“${term.written}” counts no longer on this site.` : `“${term.written}” counts again.`,
          () => act(() => leaveOut(siteId, term, !out), router.refresh),
        );
      },
    );
  return (
    <>
      <ul className="text-[0.9rem]">
        {terms.slice(0, MOST_SHOWN).map(({ term, forms, words, results, inTitle }) => (
          <li
            key={term}
            className="hairline grid grid-cols-[10rem_1fr_1.5rem_4rem] items-center gap-2 border-b py-0.5"
          >
            <span className="truncate font-semibold" title={forms.join(', ')}>
              {words > 1 ? forms[0] : forms.slice(0, 2).join(', ')}
            </span>
            <svg viewBox="0 0 100 8" preserveAspectRatio="none" className="h-2 w-full" aria-hidden>
              <rect
                x="0.5"
                y="0.5"
                width={Math.max(1, (99 * results) / Math.max(1, of))}
                height="7"
                fill={inTitle ? 'currentColor' : 'url(#unsaid-hatch)'}
                stroke="currentColor"
                strokeWidth="1"
                vectorEffect="non-scaling-stroke"
              />
            </svg>
            <span className="text-right tabular-nums">{results}</span>
            {inTitle ? (
              <span className="muted text-[0.8rem]">said</span>
            ) : (
              <IfMay right="edit">
                <button
                  type="button"
                  className="inline-link justify-self-start text-[0.8rem]"
                  disabled={busy}
                  onClick={() => put({ term, written: forms[0]! }, true)}
                >
                  leave out
                </button>
              </IfMay>
            )}
          </li>
        ))}
      </ul>
      {terms.length === 0 && <p>No two of them say the same.</p>}
      <svg width="0" height="0" aria-hidden className="absolute">
        <defs>
          <pattern
            id="unsaid-hatch"
            width="5"
            height="5"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <line x1="0" y1="0" x2="0" y2="5" stroke="currentColor" strokeWidth="2" />
          </pattern>
        </defs>
      </svg>
      <p className="muted mt-1 text-[0.8rem]">
        {own && 'Solid: your text says it. '}
        {leftOut.length > 0 && (
          <>
            Left out:{' '}
            {leftOut.map((term, i) => (
              <span key={term.term}>
                {i > 0 && ', '}
                {term.written}{' '}
                <IfMay right="edit">
                  <button
                    type="button"
                    className="inline-link"
                    disabled={busy}
                    onClick={() => put(term, false)}
                  >
                    count it again
                  </button>
                </IfMay>
              </span>
            ))}
          </>
        )}
      </p>
    </>
  );
}
