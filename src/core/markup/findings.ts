import type { PageEvidence } from '../model/evidence';
import { count, plural } from '../words/format';
import { characterCount } from './graphemes';
import { TITLE_ROOM_CHARACTERS, TITLE_ROOM_PIXELS, titlePixels } from './titleWidth';

/** Something on a page that wants a look. */
export type Finding = { readonly code: FindingCode; readonly message: string };
export type FindingCode =
  | 'not-served'
  | 'not-indexed'
  | 'canonical-elsewhere'
  | 'title-missing'
  | 'title-doubled'
  | 'title-too-long'
  | 'description-missing'
  | 'no-h1'
  | 'several-h1'
  | 'level-skipped'
  | 'year-passed'
  | 'structured-data-broken'
  | 'wrong-encoding';

/** What has to be known besides the page itself. */
export type FindingContext = {
  /** The year now. */
  readonly year: number;
  /** Paths of other pages that have the same title. */
  readonly sameTitle: readonly string[];
};

const MOST_NAMED = 3;

/** What on a page wants a look, the gravest first. */
export function findingsOn(page: PageEvidence, { year, sameTitle }: FindingContext): Finding[] {
  return [
    ...servedFindings(page),
    ...titleFindings(page, sameTitle),
    ...headingFindings(page),
    ...yearFindings(page, year),
    ...page.structuredData.flatMap(({ problem, types }): Finding[] =>
      problem === null
        ? []
        : [
            {
              code: 'structured-data-broken',
              message: `JSON-LD${types.length > 0 ? ` (${types.join(', ')})` : ''}: ${problem}`,
            },
          ],
    ),
    ...encodingFindings(page),
  ];
}

function servedFindings({ status, robots, canonical, finalAddress }: PageEvidence): Finding[] {
  const found: Finding[] = [];
  if (status !== 200)
    found.push({ code: 'not-served', message: `It answers with status ${status} and not 200.` });
  if (robots.includes('noindex') || robots.includes('none'))
    found.push({ code: 'not-indexed', message: `It asks not to be indexed (${robots.join(', ')}).` });
  if (canonical !== null && canonical !== finalAddress)
    found.push({
      code: 'canonical-elsewhere',
      message: `It names another address as the one that counts: ${canonical}.`,
    });
  return found;
}

function titleFindings({ title, description }: PageEvidence, sameTitle: readonly string[]): Finding[] {
  const found: Finding[] = [];
  if (!title) found.push({ code: 'title-missing', message: 'It has no title.' });
  else {
    const [characters, pixels] = [characterCount(title), titlePixels(title)];
    if (characters > TITLE_ROOM_CHARACTERS || pixels > TITLE_ROOM_PIXELS)
      found.push({
        code: 'title-too-long',
        message: `Its title is too long to be shown whole: ${plural(characters, 'character')}, ${count(pixels)} pixels wide; about ${TITLE_ROOM_CHARACTERS} and ${TITLE_ROOM_PIXELS} fit.`,
      });
    if (sameTitle.length > 0) {
      const named = sameTitle.slice(0, MOST_NAMED).join(', ');
      const more = sameTitle.length > MOST_NAMED ? ` and ${sameTitle.length - MOST_NAMED} more` : '';
      found.push({ code: 'title-doubled', message: `The same title stands on ${named}${more}.` });
    }
  }
  if (!description) found.push({ code: 'description-missing', message: 'It has no meta description.' });
  return found;
}

/**
 * Headings by the HTML standard, 4.3.11: at least one of the first level, and none more than one
 * level below the previous one. A single first-level heading is common practice, no published
 * source.
 */
function headingFindings({ headings }: PageEvidence): Finding[] {
  const found: Finding[] = [];
  const firsts = headings.filter(({ level }) => level === 1);
  if (!firsts.some(({ text }) => text !== ''))
    found.push({ code: 'no-h1', message: firsts.length === 0 ? 'It has no H1.' : 'Its H1 is empty.' });
  if (firsts.length > 1)
    found.push({
      code: 'several-h1',
      message: `It has ${firsts.length} H1: ${firsts
        .slice(0, MOST_NAMED)
        .map(({ text }) => `“${text}”`)
        .join(', ')}.`,
    });
  const skips = headings.flatMap((heading, i) => {
    const before = headings[i - 1];
    return before && heading.level > before.level + 1 ? [{ before, heading }] : [];
  });
  const [first] = skips;
  if (first)
    found.push({
      code: 'level-skipped',
      message: `“${first.heading.text}” is an H${first.heading.level} right after an H${first.before.level}${
        skips.length > 1 ? `, and ${plural(skips.length - 1, 'more level')} skipped` : ''
      }.`,
    });
  return found;
}

/** A year after such a word is meant to stay. */
const STAYS = /(?:since|from|founded|established|est\.?|©|\(c\))\s*$/i;

function yearFindings({ title, description, headings }: PageEvidence, year: number): Finding[] {
  const places: [string, string | null][] = [
    ['title', title],
    ['meta description', description],
    ...headings.map(({ level, text }): [string, string] => [`H${level} “${text}”`, text]),
  ];
  return places.flatMap(([where, text]): Finding[] => {
    for (const match of (text ?? '').matchAll(/(?<![\d.,–-])(?:19|20)\d\d(?![\d–-])/g)) {
      const passed = Number(match[0]) < year && !STAYS.test(text!.slice(0, match.index));
      if (passed)
        return [{ code: 'year-passed', message: `The ${where} names ${match[0]}, a year that has passed.` }];
    }
    return [];
  });
}

function encodingFindings({ misfits, encoding }: PageEvidence): Finding[] {
  if (misfits === 0) return [];
  return [
    {
      code: 'wrong-encoding',
      message: `${plural(misfits, 'character')} make no sense in ${encoding}, the encoding that it names.`,
    },
  ];
}
