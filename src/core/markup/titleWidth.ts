import { UNITS_PER_EM, WIDTHS } from './widths';

/**
 * Font size of titles on result pages, and the width available. Common practice, no published
 * source.
 */
export const TITLE_PIXELS = 20;
export const TITLE_ROOM_PIXELS = 600;
/** From this many characters on a title is often cut: from memory. */
export const TITLE_ROOM_CHARACTERS = 60;

const widths = new Map<number, number>();
for (const [first, count, width] of WIDTHS) for (let i = 0; i < count; i++) widths.set(first + i, width);

/**
 * Width of characters outside the table: ideographs fill their square, combining marks have no
 * width.
 */
function otherWidth(char: string): number {
  if (/\p{M}|\p{Cf}/u.test(char)) return 0;
  if (
    /\p{Script=Han}|\p{Script=Hiragana}|\p{Script=Katakana}|\p{Script=Hangul}|\p{Extended_Pictographic}/u.test(
      char,
    )
  )
    return UNITS_PER_EM;
  return 0.6 * UNITS_PER_EM;
}

/**
 * Width of a title on a result page in pixels, in a typeface with the usual metrics, without
 * kerning.
 */
export function titlePixels(title: string): number {
  let units = 0;
  for (const char of title) units += widths.get(char.codePointAt(0)!) ?? otherWidth(char);
  return Math.round((units / UNITS_PER_EM) * TITLE_PIXELS);
}
