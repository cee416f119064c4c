/* How much room a text has in the results, and what of it is cut off. */

import { characterCount } from '../markup/graphemes';
import { TITLE_PIXELS, TITLE_ROOM_PIXELS, titlePixels } from '../markup/titleWidth';

/** The size of letters, and the room in pixels at the widths of a desk and of a hand. */
type Room = { readonly size: number; readonly desktop: number; readonly mobile: number };

/** Title width. Desktop: common practice, no published source; mobile: from memory. */
export const TITLE_ROOM: Room = { size: TITLE_PIXELS, desktop: TITLE_ROOM_PIXELS, mobile: 550 };
/** Of a description, over two or three lines: from memory. */
export const DESCRIPTION_ROOM: Room = { size: 14, desktop: 920, mobile: 680 };

/** How long a text is, and what of it is shown: all, or as much as there is room for. */
export type Measured = {
  readonly characters: number;
  readonly pixels: number;
  /** What is shown at the width of a desk and of a hand; null where all is. */
  readonly cut: { readonly desktop: string | null; readonly mobile: string | null };
};

/** How wide a text is in letters of a size. */
function widthAt(text: string, size: number): number {
  return (titlePixels(text) * size) / TITLE_PIXELS;
}

const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' });

/** The longest beginning of a text that fits, up to a word end; null if all of it fits. */
function cutTo(text: string, { size }: Room, pixels: number): string | null {
  if (widthAt(text, size) <= pixels) return null;
  const room = pixels - widthAt('…', size);
  let width = 0;
  let end = 0;
  for (const { segment, index } of graphemes.segment(text)) {
    width += widthAt(segment, size);
    if (width > room) break;
    end = index + segment.length;
  }
  const whole = text.slice(0, end);
  const space = /\s/.test(text.charAt(end)) ? end : whole.search(/\s\S*$/u);
  return (space > end / 2 ? whole.slice(0, space) : whole).trimEnd();
}

/**
 * How long a text is and what of it is shown.
 * @example measured('Wax', TITLE_ROOM) // { characters: 3, pixels: 40, cut: { desktop: null, mobile: null } }
 */
export function measured(text: string, room: Room): Measured {
  return {
    characters: characterCount(text),
    pixels: Math.round(widthAt(text, room.size)),
    cut: { desktop: cutTo(text, room, room.desktop), mobile: cutTo(text, room, room.mobile) },
  };
}

/** The middle half of some numbers, and one's own: a quarter lies below `low`, a quarter above `high`. */
export type Middle = {
  readonly own: number | null;
  readonly low: number;
  readonly middle: number;
  readonly high: number;
};

/** The middle half of some numbers; null of none. */
export function middleHalf(values: readonly number[], own: number | null): Middle | null {
  if (values.length === 0) return null;
  const sorted = [...values].sort((a, b) => a - b);
  const at = (share: number) => {
    const place = share * (sorted.length - 1);
    const [below, above] = [sorted[Math.floor(place)]!, sorted[Math.ceil(place)]!];
    return below + (above - below) * (place - Math.floor(place));
  };
  return { own, low: at(0.25), middle: at(0.5), high: at(0.75) };
}
