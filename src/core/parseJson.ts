/** Deepest nesting accepted from outside; ours has six or seven levels. */
const MOST_LEVELS = 64;

/**
 * Parses JSON from outside. Throws SyntaxError if the text is not JSON, or is nested so deeply that
 * recursive code would run out of stack.
 */
export function parseJson(text: string): unknown {
  let [level, quoted] = [0, false];
  for (let at = 0; at < text.length; at++) {
    const char = text[at]!;
    if (quoted) {
      if (char === '\\') at++;
      else if (char === '"') quoted = false;
    } else if (char === '"') quoted = true;
    else if (char === '[' || char === '{') {
      if (++level > MOST_LEVELS)
        throw new SyntaxError(`it is nested too deeply (more than ${MOST_LEVELS} levels).`);
    } else if (char === ']' || char === '}') level--;
  }
  return JSON.parse(text) as unknown;
}

/** Values that a body may hold, those within others counted each: the largest of ours have some ten thousand. */
const MOST_VALUES = 1_000_000;

/**
 * Whether a value is nested deeper than JSON from outside may be, or holds more values. What stands in several places
 * counts in each of them: whatever walks through the value meets it as often. Without recursion, since the value may be
 * nested without end.
 */
export function exceedsJsonLimits(value: unknown): boolean {
  const open: { readonly one: unknown; readonly depth: number }[] = [{ one: value, depth: 0 }];
  for (let met = 0; open.length > 0; met++) {
    const { one, depth } = open.pop()!;
    if (depth > MOST_LEVELS || met > MOST_VALUES) return true;
    if (typeof one !== 'object' || one === null) continue;
    for (const within of Object.values(one) as unknown[]) open.push({ one: within, depth: depth + 1 });
  }
  return false;
}
