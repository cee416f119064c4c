import { VERDICT_NAMES } from '@/core/effect/effectWords';
import type { Verdict } from '@/core/reading/readingModel';

/** Colour of a verdict: petrol for lifted, rust for dropped, ink for the rest. */
export const VERDICT_INK: Record<Verdict, string> = {
  lifted: 'text-accent',
  dropped: 'text-error',
  held: 'text-base-content',
  unclear: 'muted',
  waiting: 'muted',
};

/** The shape of a verdict, so that it is never told by colour alone; its word has to stand beside it. */
export function VerdictShape({ verdict }: { verdict: Verdict }) {
  return (
    <svg
      viewBox="0 0 10 10"
      width="10"
      height="10"
      aria-hidden
      className={`inline-block shrink-0 ${VERDICT_INK[verdict]}`}
    >
      {verdict === 'lifted' && <path d="M5 1 9.5 9h-9z" fill="currentColor" />}
      {verdict === 'dropped' && <path d="M5 9 .5 1h9z" fill="currentColor" />}
      {verdict === 'held' && <path d="M1 2.2h8v2H1zM1 6h8v2H1z" fill="currentColor" />}
      {verdict === 'unclear' && (
        <path d="M1 9 9 1M1 5l4-4M5 9l4-4" stroke="currentColor" strokeWidth="1.3" fill="none" />
      )}
      {verdict === 'waiting' && (
        <rect x="1" y="1" width="8" height="8" fill="none" stroke="currentColor" strokeWidth="1.2" />
      )}
    </svg>
  );
}

/** A verdict with its shape, its word, and a figure where there is one. */
export function VerdictMark({ verdict, figure }: { verdict: Verdict; figure?: string }) {
  return (
    <span
      className={`inline-flex items-baseline gap-1 font-semibold whitespace-nowrap ${VERDICT_INK[verdict]}`}
    >
      <VerdictShape verdict={verdict} />
      {VERDICT_NAMES[verdict]}
      {figure && ` ${figure}`}
    </span>
  );
}
