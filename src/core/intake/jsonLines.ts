import { parseJson } from '../parseJson';
/*
 * JSON Lines: an object per line, whose keys are the columns. Nested objects and lists give columns
 * named by their path: {"keys": ["a"]} has the column "keys.0".
 */

const POINT = 46;

/** Deeper than this nothing is looked for. */
const MOST_LEVELS = 4;

/** Calls back for each plain value in an object with the path to it. */
function eachValue(
  value: unknown,
  path: string,
  level: number,
  visit: (path: string, text: string) => void,
): void {
  if (typeof value === 'object' && value !== null && level < MOST_LEVELS) {
    for (const [key, inner] of Object.entries(value))
      eachValue(inner, path === '' ? key : `${path}.${key}`, level + 1, visit);
  } else visit(path, cellOfValue(value));
}

/** The object that a line holds; null where it holds none. */
function objectIn(line: string): object | null {
  try {
    const value: unknown = parseJson(line);
    return typeof value === 'object' && value !== null && !Array.isArray(value) ? value : null;
  } catch {
    return null;
  }
}

/**
 * A plain value as a table cell. Numbers are written so that their point is read as the decimal
 * sign (1.234 as 1.2340).
 */
export function cellOfValue(value: unknown): string {
  if (value === null || value === undefined) return '';
  if (typeof value === 'number') {
    const text = String(value);
    // Three digits after a point could be taken for thousands.
    return text.length > 3 && text.charCodeAt(text.length - 4) === POINT ? `${text}0` : text;
  }
  if (value instanceof Date) {
    if (Number.isNaN(value.getTime())) return '';
    const iso = value.toISOString();
    return iso.endsWith('T00:00:00.000Z') ? iso.slice(0, 10) : iso;
  }
  return typeof value === 'object' ? JSON.stringify(value) : String(value);
}

/** Whether a text begins as JSON Lines do: an object on its first line. */
export function beginsAsJsonLines(firstLine: string): boolean {
  return firstLine.trimStart().startsWith('{') && objectIn(firstLine) !== null;
}

/**
 * The columns of JSON Lines by the objects of some lines, in order of appearance.
 *
 * @example
 * columnsOfJsonLines(['{"day": 1}', '{"day": 2, "page": {"url": "/a/"}}']) // ["day", "page.url"]
 */
export function columnsOfJsonLines(lines: readonly string[]): string[] {
  const columns = new Set<string>();
  for (const line of lines) eachValue(objectIn(line) ?? {}, '', 0, (path) => columns.add(path));
  columns.delete('');
  return [...columns];
}

/** Reads JSON lines as table rows with the given columns; other keys are ignored. */
export class JsonLineReader {
  private readonly places: ReadonlyMap<string, number>;

  constructor(private readonly columns: readonly string[]) {
    this.places = new Map(columns.map((name, place) => [name, place]));
  }

  /** The cells of a line, or a sentence saying why it has none. */
  read(line: string): string[] | string {
    const object = objectIn(line);
    if (!object) return 'The line does not hold a JSON object.';
    const cells = new Array<string>(this.columns.length).fill('');
    for (const [key, value] of Object.entries(object)) {
      if (typeof value === 'object' && value !== null) {
        eachValue(value, key, 1, (path, text) => this.set(cells, path, text));
      } else this.set(cells, key, typeof value === 'string' ? value : cellOfValue(value));
    }
    return cells;
  }

  private set(cells: string[], path: string, text: string): void {
    const place = this.places.get(path);
    if (place !== undefined) cells[place] = text;
  }
}
