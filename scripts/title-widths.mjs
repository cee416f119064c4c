// Writes the widths by which titles are measured (src/core/markup/widths.ts), from a typeface with the metrics of the
// one that result pages most often use. Run it after the package of the typeface was updated.
import { readFileSync, writeFileSync } from 'node:fs';
import { create } from 'fontkit';
import { format } from 'prettier';

const SETS = ['latin', 'latin-ext', 'vietnamese', 'greek', 'cyrillic', 'hebrew'];
const FIRST = 0x20;
const LAST = 0x2122;

const fonts = SETS.map((set) =>
  create(readFileSync(`node_modules/@fontsource/arimo/files/arimo-${set}-400-normal.woff2`)),
);
const unitsPerEm = fonts[0].unitsPerEm;
/** Runs of characters of one width: the first character, how many, and their width in units. */
const runs = [];
for (let code = FIRST; code <= LAST; code++) {
  const font = fonts.find((one) => one.hasGlyphForCodePoint(code));
  if (!font) continue;
  const width = font.glyphForCodePoint(code).advanceWidth;
  const last = runs.at(-1);
  if (last && last[0] + last[1] === code && last[2] === width) last[1]++;
  else runs.push([code, 1, width]);
}
const source = `/* Written by scripts/title-widths.mjs from Arimo (SIL Open Font License 1.1), regular. */

export const UNITS_PER_EM = ${unitsPerEm};

/** Runs of characters of one width: the first character's code, how many, and their width in units. */
// prettier-ignore
export const WIDTHS: readonly (readonly [number, number, number])[] = ${JSON.stringify(runs)};
`;
writeFileSync(
  'src/core/markup/widths.ts',
  await format(source, { parser: 'typescript', singleQuote: true, printWidth: 110 }),
);
console.log(`${runs.length} runs`);
