import type { Piece } from '@/core/reading/readingSentence';
import { VERDICT_INK } from './VerdictMark';

/** A sentence of which the finding itself stands out. */
export function Pieces({ found }: { found: readonly Piece[] }) {
  return found.map((piece, i) =>
    piece.mark ? (
      <strong key={i} className={`font-semibold ${VERDICT_INK[piece.mark]}`}>
        {piece.text}
      </strong>
    ) : (
      piece.text
    ),
  );
}
