import type { Layered } from './layers';

/*
 * The rows of one day may be divided by device, by country, by both or by neither, depending on the files that brought
 * them. They are never mixed: one way of dividing stands for the day. It is the one with the newest figures, and of
 * several as new as each other the least divided.
 */

/** Whether rows are divided by device (1), by country (2), by both (3) or by neither (0). */
function divisionOf(device: number, country: number): number {
  return (device === 0 ? 0 : 1) + (country === 0 ? 0 : 2);
}

/** The rows that stand for their query and day, in order; the others say the same again, divided otherwise. */
export function standingRows({ facts, vintage, divided }: Layered): ArrayLike<number> & Iterable<number> {
  const { rows, query, day, device, country } = facts;
  if (divided === false) return firstNumbers(rows);
  const standing: number[] = [];
  const newest = [0, 0, 0, 0];
  for (let from = 0; from < rows;) {
    let to = from;
    newest.fill(-1);
    for (; to < rows && query[to] === query[from] && day[to] === day[from]; to++) {
      const division = divisionOf(device[to]!, country[to]!);
      if (vintage[to]! > newest[division]!) newest[division] = vintage[to]!;
    }
    const chosen = newest.indexOf(Math.max(...newest));
    for (let i = from; i < to; i++) if (divisionOf(device[i]!, country[i]!) === chosen) standing.push(i);
    from = to;
  }
  return standing;
}

let numbers = new Uint32Array(0);

/** The numbers from 0 up to below `count`. */
function firstNumbers(count: number): Uint32Array {
  if (numbers.length < count) numbers = Uint32Array.from({ length: 2 * count }, (_, i) => i);
  return numbers.subarray(0, count);
}

/** The rows divided by device that stand for their query, day and device, by country or not. */
export function standingDeviceRows({ facts, vintage }: Layered): number[] {
  const { rows, query, day, device, country } = facts;
  const standing: number[] = [];
  for (let from = 0; from < rows;) {
    let to = from;
    let [whole, divided] = [-1, -1];
    for (
      ;
      to < rows && query[to] === query[from] && day[to] === day[from] && device[to] === device[from];
      to++
    ) {
      if (country[to] === 0) whole = Math.max(whole, vintage[to]!);
      else divided = Math.max(divided, vintage[to]!);
    }
    const byCountry = divided > whole;
    if (device[from] !== 0)
      for (let i = from; i < to; i++) if ((country[i] !== 0) === byCountry) standing.push(i);
    from = to;
  }
  return standing;
}
