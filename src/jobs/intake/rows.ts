import { GRAINS, type Grain } from '../../core/facts/grains';
import { LEFT_OUT, RowReader, type Named, type RowContext } from '../../core/intake/rowReader';
import type { ArrivingAttribute, RefusedRow } from '../../store/figures/arrival';
import { addressReader } from './addressReader';
import { forEachRecordIn, type RecordForm } from './records';
import type { Block } from './text';

/** Everything a block reader needs; passed to other threads, so it is plain data. */
export type ReadingPlan = Omit<RowContext, 'address'> &
  RecordForm & {
    readonly siteAddress: string;
  };

/**
 * Rows of a block in units of eight bytes: URL and query (two 32-bit integers), day and country × 8
 * + device, then values as floats, then the part, if any. URLs, queries and labels are numbered in
 * order of appearance in this reader, queries and labels from 1; `met` has the new ones.
 */
export type ReadBlock = {
  readonly rows: number;
  readonly units: ArrayBuffer;
  readonly met: { readonly addresses: string[]; readonly queries: string[]; readonly labels: string[] };
  readonly attributes: ArrivingAttribute[];
  readonly refused: RefusedRow[];
  /** All rows of the block, refused ones and those left out included. */
  readonly read: number;
  /** Rows of kinds that do not count. */
  readonly leftOut: number;
  /** Lines of the block. Those of refused rows count from 1 within it. */
  readonly lines: number;
};

/** Units of eight bytes that a row takes. */
export function unitsARow(grain: Grain, hasParts: boolean): number {
  return 2 + GRAINS[grain].values.length + (hasParts ? 1 : 0);
}

/** Cells of a refused row that are kept, and characters of each. */
const [KEPT_CELLS, KEPT_CHARACTERS] = [200, 2000];

class Numbered {
  private readonly known = new Map<string, number>();
  private fresh: string[] = [];

  /** `first` is the number of the first text. */
  constructor(private readonly first: number) {}

  /** The number of a text, which is noted on it for the next time. */
  numberOf(one: Named): number {
    if (one.number >= 0) return one.number;
    let number = this.known.get(one.text);
    if (number === undefined) {
      number = this.first + this.known.size;
      this.known.set(one.text, number);
      this.fresh.push(one.text);
    }
    return (one.number = number);
  }

  /** The texts met since the last call. */
  takeFresh(): string[] {
    const fresh = this.fresh;
    this.fresh = [];
    return fresh;
  }
}

/** Reads blocks of a file into numbers. Several can work on the same file in parallel. */
export class BlockReader {
  private readonly reader: RowReader;
  private readonly addresses = new Numbered(0);
  private readonly queries = new Numbered(1);
  private readonly labels = new Numbered(1);
  private readonly stride: number;
  private readonly decoder = new TextDecoder();
  private floats = new Float64Array(1024);
  private ints = new Uint32Array(this.floats.buffer);

  constructor(private readonly plan: ReadingPlan) {
    this.reader = new RowReader({ ...plan, address: addressReader(plan.siteAddress) });
    this.stride = unitsARow(plan.grain, this.reader.hasParts);
  }

  /** Rows are gathered in memory that is used again for the next block. */
  private makeRoom(units: number): void {
    const more = new Float64Array(Math.max(units, 2 * this.floats.length));
    more.set(this.floats);
    this.floats = more;
    this.ints = new Uint32Array(more.buffer);
  }

  /** Reads one block. Throws UnsettledDates. */
  read({ bytes, isFirst, garbled }: Block): ReadBlock {
    const text = this.decoder.decode(bytes);
    const { reader, stride } = this;
    const { values } = reader;
    const byQuery = this.plan.mapping.query != null;
    const attributesOnly = values.length === 1 && /_attribute$/.test(this.plan.grain);
    const hasNul = bytes.includes(0);
    let { ints, floats } = this;
    let [rows, read, leftOut] = [0, 0, 0];
    const refused: RefusedRow[] = [];
    const attributes: ArrivingAttribute[] = [];
    const lines = forEachRecordIn(text, 1, isFirst, this.plan, (cells, at, unreadable) => {
      read++;
      const problem =
        unreadable ??
        (garbled && cells.some((cell) => cell.includes('\ufffd'))
          ? 'The row holds bytes that are not UTF-8.'
          : hasNul && cells.some((cell) => cell.includes('\0'))
            ? 'The row holds a NUL byte.'
            : null) ??
        reader.read(cells);
      if (problem === LEFT_OUT) {
        leftOut++;
        return;
      }
      if (problem !== null) {
        const kept = cells.slice(0, KEPT_CELLS).map((cell) => cell.slice(0, KEPT_CHARACTERS));
        refused.push({ line: at, message: problem, cells: kept });
        return;
      }
      const address = this.addresses.numberOf(reader.address);
      const query = byQuery ? this.queries.numberOf(reader.query) : 0;
      if (attributesOnly) {
        const subject = byQuery ? query : address;
        for (const one of reader.attributes) attributes.push({ subject, ...one });
        return;
      }
      if ((rows + 1) * stride > floats.length) {
        this.makeRoom((rows + 1) * stride);
        ({ ints, floats } = this);
      }
      const unit = rows * stride;
      ints[2 * unit] = address;
      ints[2 * unit + 1] = query;
      ints[2 * unit + 2] = reader.day;
      const country = reader.country.text === '' ? 0 : this.labels.numberOf(reader.country);
      ints[2 * unit + 3] = country * 8 + reader.device;
      for (let v = 0; v < values.length; v++) floats[unit + 2 + v] = values[v]!;
      if (reader.hasParts) ints[2 * (unit + stride - 1)] = reader.part;
      rows++;
    });
    return {
      rows,
      units: floats.buffer.slice(0, rows * stride * 8),
      met: {
        addresses: this.addresses.takeFresh(),
        queries: this.queries.takeFresh(),
        labels: this.labels.takeFresh(),
      },
      attributes,
      refused,
      read,
      leftOut,
      lines,
    };
  }
}
