/** Levels that JSON from outside may be nested: ours has six or seven. */
const MOST_LEVELS = 64;

/**
 * Parses JSON that comes from outside. Throws SyntaxError where the text is no JSON, or nested so
 * deep that whatever walks through it would run out of stack.
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
        throw new SyntaxError(`it is nested too deep (more than ${MOST_LEVELS} levels).`);
    } else if (char === ']' || char === '}') level--;
  }
  return JSON.parse(text) as unknown;
}

/**
 * Whether a value is nested deeper than JSON from outside may be. Without recursion, since it may
 * be nested without end.
 */
export function isTooDeep(value: unknown): boolean {
  let level: unknown[] = [value];
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > MOST_LEVELS) return true;
    level = level.flatMap((one) =>
      typeof one === 'object' && one !== null ? (Object.values(one) as unknown[]) : [],
    );
  }
  return false;
}
