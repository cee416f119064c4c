/** What was put aside comes back once it would bring half as much again. */
const COMES_BACK = 1.5;
/** Of little, half as much again is next to nothing: it takes at least so many clicks more a month. */
const LEAST_MORE = 5;

/**
 * Whether an opening stays aside that would bring `clicks` a month by now, and was put aside when it would have brought
 * `then`; null where it never was.
 *
 * @example staysAside(40, 60) // true
 * @example staysAside(40, 61) // false
 */
export function staysAside(then: number | null, clicks: number): boolean {
  return then !== null && clicks <= Math.max(COMES_BACK * then, then + LEAST_MORE);
}
