/* Titles one above the other, shared words marked and lined up. */

import type { Lexicon } from '../words/stems';
import { tokensOf } from './tokens';

/** A piece of a title; `results` is the number of titles with its word, 0 if it isn’t shared. */
export type Piece = { readonly text: string; readonly stem: string | null; readonly results: number };

/** A title in pieces; the piece at `pivot` is aligned with those of other titles, -1 if none is. */
export type Stacked = { readonly pieces: readonly Piece[]; readonly pivot: number };

/**
 * Splits titles into pieces, so that words of at least two titles can be marked. Titles are aligned
 * at the most shared word, or at their own most shared word (a concordance, as in linguistics).
 */
export function stackedTitles(titles: readonly string[], lexicon: Lexicon): Stacked[] {
  const tokens = titles.map((title) => tokensOf(title, lexicon).filter(({ joining }) => !joining));
  const said = new Map<string, number>();
  for (const of of tokens)
    for (const stem of new Set(of.map((token) => token.stem))) said.set(stem, (said.get(stem) ?? 0) + 1);
  const shared = [...said].filter(([, n]) => n > 1).sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1));
  return titles.map((title, row) => {
    const pieces: Piece[] = [];
    let at = 0;
    const rest = (to: number) => {
      if (to > at) pieces.push({ text: title.slice(at, to), stem: null, results: 0 });
    };
    for (const { stem, start, end } of tokens[row]!) {
      const results = said.get(stem)!;
      if (results < 2) continue;
      rest(start);
      pieces.push({ text: title.slice(start, end), stem, results });
      at = end;
    }
    rest(title.length);
    const first = shared.find(([stem]) => pieces.some((piece) => piece.stem === stem))?.[0];
    return { pieces, pivot: first === undefined ? -1 : pieces.findIndex((piece) => piece.stem === first) };
  });
}
