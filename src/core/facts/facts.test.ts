import fc from 'fast-check';
import { condense, type RawFacts } from './condense';
import { emptyFacts, sameValues, type Facts } from './facts';
import { sortAndPack } from './sortAndPack';
import { countReplaced, layer, mergeLayers, type Layered } from './layers';
import { radixOrder } from './order';
import { DAYS_A_PIECE, firstDayOfPiece, packFacts, pieceOf, unpackFacts } from './pack';
import { standingDeviceRows, standingRows } from './standing';

type Row = { query: number; day: number; device: number; country: number; values: number[] };

const PIECE = 640;
const FIRST = firstDayOfPiece(PIECE);

const anyValue = fc.oneof(
  fc.nat(300),
  fc.nat(70_000),
  fc.integer({ min: 0, max: 2 ** 40 }),
  fc.double({ noNaN: true, noDefaultInfinity: true }),
  fc.constant(NaN),
);
const anyRow: fc.Arbitrary<Row> = fc.record({
  query: fc.oneof(fc.nat(4), fc.nat(2 ** 30)),
  day: fc.nat(DAYS_A_PIECE - 1).map((n) => FIRST + n),
  device: fc.nat(4),
  country: fc.oneof(fc.constant(0), fc.nat(400)),
  values: fc.array(anyValue, { minLength: 3, maxLength: 3 }),
});
const keyOf = (row: Row) => `${row.query}/${row.day}/${row.device}/${row.country}`;
const inOrder = (a: Row, b: Row) =>
  a.query - b.query || a.day - b.day || a.device - b.device || a.country - b.country;
const anyRows = fc.uniqueArray(anyRow, { selector: keyOf, maxLength: 40 }).map((rows) => rows.sort(inOrder));

function factsOf(rows: readonly Row[], values = 3): Facts {
  const facts = emptyFacts(rows.length, values);
  rows.forEach((row, i) => {
    facts.query[i] = row.query;
    facts.day[i] = row.day;
    facts.device[i] = row.device;
    facts.country[i] = row.country;
    row.values.forEach((value, v) => (facts.values[v]![i] = value));
  });
  return facts;
}

function rowsOf(facts: Facts): Row[] {
  return Array.from({ length: facts.rows }, (_, i) => ({
    query: facts.query[i]!,
    day: facts.day[i]!,
    device: facts.device[i]!,
    country: facts.country[i]!,
    values: facts.values.map((column) => column[i]!),
  }));
}

test('what is packed reads back to the last bit', () => {
  fc.assert(
    fc.property(anyRows, (rows) => {
      const bytes = packFacts(factsOf(rows), FIRST);
      expect(rowsOf(unpackFacts(bytes, FIRST, 3))).toEqual(rows);
      // From the middle of other memory, as a database gives it.
      const shifted = new Uint8Array(bytes.length + 3);
      shifted.set(bytes, 3);
      expect(rowsOf(unpackFacts(shifted.subarray(3), FIRST, 3))).toEqual(rows);
    }),
  );
});

test('columns of small numbers take little room', () => {
  const rows = Array.from({ length: 1000 }, (_, i) => ({
    ...{ query: i, day: FIRST, device: 0, country: 0, values: [i % 9, 40 + i, 0] },
  }));
  // Two bytes for the query, one for clicks, two for impressions; what is nought takes nothing.
  expect(packFacts(factsOf(rows), FIRST).length).toBe(16 + 5 * 1000);
});

test('radix sort gives the order of a stable comparison sort', () => {
  const column = fc.array(fc.oneof(fc.nat(3), fc.nat(2 ** 31), fc.constant(2 ** 32 - 1)), {
    minLength: 30,
    maxLength: 30,
  });
  fc.assert(
    fc.property(fc.array(column, { minLength: 1, maxLength: 3 }), (columns) => {
      const expected = Array.from({ length: 30 }, (_, i) => i).sort((a, b) => {
        for (const one of columns) if (one[a] !== one[b]) return one[a]! - one[b]!;
        return a - b;
      });
      expect([...radixOrder(30, columns)]).toEqual(expected);
    }),
  );
});

describe('layers', () => {
  const plainly = (layers: readonly Row[][]) => {
    const map = new Map<string, Row>();
    for (const rows of layers) for (const row of rows) map.set(keyOf(row), row);
    return [...map.values()].sort(inOrder);
  };

  test('the uppermost row of a key stands, with the day on which it was taken', () => {
    fc.assert(
      fc.property(fc.array(anyRows, { minLength: 1, maxLength: 6 }), (layers) => {
        const merged = mergeLayers(layers.map((rows, i) => layer(factsOf(rows), i)))!;
        expect(rowsOf(merged.facts)).toEqual(plainly(layers));
        rowsOf(merged.facts).forEach((row, i) => {
          const last = layers.findLastIndex((rows) => rows.some((one) => keyOf(one) === keyOf(row)));
          expect(merged.vintage[i]).toBe(last);
        });
      }),
    );
  });

  test('what a layer replaces and changes is counted', () => {
    fc.assert(
      fc.property(anyRows, anyRows, (lower, upper) => {
        const under = new Map(lower.map((row) => [keyOf(row), row]));
        const both = upper.filter((row) => under.has(keyOf(row)));
        const other = both.filter(
          (row) => !row.values.every((value, v) => Object.is(value, under.get(keyOf(row))!.values[v])),
        );
        const counted = countReplaced(factsOf(lower), factsOf(upper));
        expect(counted.replaced).toBe(both.length);
        // 0 and -0 are one value here.
        expect(counted.changed).toBeLessThanOrEqual(other.length);
        expect(countReplaced(factsOf(upper), factsOf(upper))).toEqual({ replaced: upper.length, changed: 0 });
      }),
    );
  });

  test('an absent value is the same as an absent value, and not as 0', () => {
    const one = factsOf([{ query: 0, day: FIRST, device: 0, country: 0, values: [NaN, 0, 1] }]);
    const other = factsOf([{ query: 0, day: FIRST, device: 0, country: 0, values: [0, 0, 1] }]);
    expect([sameValues(one, 0, one, 0), sameValues(one, 0, other, 0)]).toEqual([true, false]);
  });
});

describe('rows divided differently', () => {
  const division = (row: Row) => (row.device === 0 ? 0 : 1) + (row.country === 0 ? 0 : 2);
  const few = fc.uniqueArray(
    fc.record({
      query: fc.nat(1),
      day: fc.nat(2).map((n) => FIRST + n),
      device: fc.nat(2),
      country: fc.nat(2),
      values: fc.constant(1).map((one) => [one, one, one]),
    }),
    { selector: keyOf, maxLength: 20 },
  );
  const layered = fc
    .tuple(few, few)
    .map(([lower, upper]): Layered | null =>
      mergeLayers([layer(factsOf(lower.sort(inOrder)), 5), layer(factsOf(upper.sort(inOrder)), 9)]),
    );

  test('the newest way of dividing stands for a query and day, then the least divided', () => {
    fc.assert(
      fc.property(layered, (merged) => {
        const rows = rowsOf(merged!.facts).map((row, i) => ({ ...row, vintage: merged!.vintage[i]!, i }));
        const expected = rows.filter((row) => {
          const together = rows.filter((one) => one.query === row.query && one.day === row.day);
          const newest = Math.max(...together.map((one) => one.vintage));
          const ways = together.filter((one) => one.vintage === newest).map(division);
          return division(row) === Math.min(...ways);
        });
        expect(standingRows(merged!)).toEqual(expected.map(({ i }) => i));
      }),
    );
  });

  test('of one device likewise', () => {
    fc.assert(
      fc.property(layered, (merged) => {
        const rows = rowsOf(merged!.facts).map((row, i) => ({ ...row, vintage: merged!.vintage[i]!, i }));
        const expected = rows.filter((row) => {
          const together = rows.filter(
            (one) => one.query === row.query && one.day === row.day && one.device === row.device,
          );
          const newest = Math.max(...together.map((one) => one.vintage));
          const whole = together.some((one) => one.vintage === newest && one.country === 0);
          return row.device !== 0 && (row.country === 0) === whole;
        });
        expect(standingDeviceRows(merged!)).toEqual(expected.map(({ i }) => i));
      }),
    );
  });
});

describe('rows of a file', () => {
  const raw = (rows: readonly (Row & { part: number })[]): RawFacts => ({
    ...factsOf(rows, 1),
    part: Uint32Array.from(rows, (row) => row.part),
  });
  const row = (value: number, part = 0) => ({
    ...{ query: 1, day: FIRST, device: 0, country: 0, values: [value], part },
  });

  test('a later line with the same key stands, and parts of a key are added', () => {
    const rows = [row(1), row(2), row(10, 7), row(20, 7), row(300, 8)];
    const { facts, repeated } = condense(raw(rows), [0, 1, 2, 3, 4], 0, 5);
    expect([facts.rows, facts.values[0]![0], repeated]).toEqual([1, 2 + 20 + 300, 2]);
  });

  test('they are laid out by address and piece, whatever their order', () => {
    const anyAddressed = fc.array(fc.record({ row: anyRow, address: fc.nat(2), ahead: fc.nat(2) }), {
      minLength: 1,
      maxLength: 40,
    });
    fc.assert(
      fc.property(anyAddressed, (list) => {
        const rows = list.map(({ row: one, ahead }) => ({
          ...one,
          day: one.day + ahead * DAYS_A_PIECE,
          part: 0,
        }));
        const address = Uint32Array.from(list, (one) => one.address);
        const facts = { ...factsOf(rows), part: new Uint32Array(rows.length), address };
        const last = new Map<string, Row>();
        rows.forEach((one, i) => last.set(`${address[i]}/${keyOf(one)}`, one));
        const laid = sortAndPack(facts, null);
        const found = laid.flatMap(({ address: a, piece, bytes, rows: n, days }) => {
          const unpacked = rowsOf(unpackFacts(bytes, firstDayOfPiece(piece), 3));
          expect([unpacked.length, days.reduce((sum, day) => sum + day.rows, 0)]).toEqual([n, n]);
          expect(unpacked.every((one) => pieceOf(one.day) === piece)).toBe(true);
          return unpacked.map((one) => [`${a}/${keyOf(one)}`, one.values] as const);
        });
        expect(Object.fromEntries(found)).toEqual(
          Object.fromEntries([...last].map(([key, one]) => [key, one.values])),
        );
        expect(laid.reduce((sum, one) => sum + one.repeated, 0)).toBe(rows.length - last.size);
      }),
    );
  });

  test('rows of a period are one piece', () => {
    const facts = {
      ...factsOf([{ query: 3, day: FIRST + 60, device: 0, country: 0, values: [1, 2, 3] }]),
      part: new Uint32Array(1),
      address: new Uint32Array(1),
    };
    const [one] = sortAndPack(facts, FIRST);
    expect(one!.piece).toBe(FIRST);
    expect(rowsOf(unpackFacts(one!.bytes, FIRST, 3))[0]!.day).toBe(FIRST + 60);
  });
});
