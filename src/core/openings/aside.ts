/** What was put aside comes back once it would bring half as much again. */
const COMES_BACK = 1.5;
/**
 * Clicks a month by which an estimate must have grown as well: half as much again of little is
 * nothing.
 */
const LEAST_MORE = 5;

/**
 * Whether a dismissed opening stays dismissed, now that it would bring `clicks` a month.
 *
 * @param then its estimate when it was dismissed; null if it never was
 * @example staysAside(40, 60) // true
 * @example staysAside(40, 61) // false
 */
export function staysAside(then: number | null, clicks: number): boolean {
  return then !== null && clicks <= Math.max(COMES_BACK * then, then + LEAST_MORE);
}
