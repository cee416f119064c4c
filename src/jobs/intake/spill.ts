import { closeSync, openSync, readSync, rmSync, writeSync } from 'node:fs';
import { emptyFacts } from '../../core/facts/facts';
import { GRAINS, type Grain } from '../../core/facts/grains';
import { pieceOf } from '../../core/facts/pack';
import type { AddressedRows } from '../../core/facts/sortAndPack';
import { unitsARow, type ReadBlock } from './rows';

/** Groups that rows are split into; one at a time is in memory when they are stored. */
const GROUPS = 64;
const GROUP_UNITS = 16 * 1024;

type Group = { units: Float64Array; used: number; readonly onDisk: { at: number; units: number }[] };

/**
 * Rows on their way to the database, split so that all rows of a URL and piece are in one group.
 * Small files stay in memory; of larger ones, all but the newest rows of each group wait in a file.
 */
export class Spill {
  private readonly groups: Group[];
  private readonly stride: number;
  private fd: number | null = null;
  private written = 0;

  constructor(
    private readonly file: string,
    private readonly grain: Grain,
    private readonly hasParts: boolean,
    /** Whether rows are period totals, so that days don’t say where they belong. */
    private readonly ofPeriod: boolean,
  ) {
    this.stride = unitsARow(grain, hasParts);
    this.groups = Array.from({ length: GROUPS }, () => ({
      units: new Float64Array(0),
      used: 0,
      onDisk: [],
    }));
  }

  /** Adds the rows of a block. The lists map the reader’s numbers to those of the whole file. */
  add(
    block: ReadBlock,
    addresses: readonly number[],
    queries: readonly number[],
    labels: readonly number[],
  ): void {
    const { stride } = this;
    const floats = new Float64Array(block.units);
    const ints = new Uint32Array(block.units);
    for (let row = 0; row < block.rows; row++) {
      const unit = row * stride;
      const at = 2 * unit;
      const address = addresses[ints[at]!]!;
      ints[at] = address;
      ints[at + 1] = queries[ints[at + 1]!]!;
      const country = ints[at + 3]! >>> 3;
      if (country !== 0) ints[at + 3] = (labels[country]! << 3) | (ints[at + 3]! & 7);
      const piece = this.ofPeriod ? 0 : pieceOf(ints[at + 2]!);
      const group = this.groups[(Math.imul(address, 31) + piece) & (GROUPS - 1)]!;
      if (group.used + stride > group.units.length) this.makeRoom(group);
      const { units, used } = group;
      for (let u = 0; u < stride; u++) units[used + u] = floats[unit + u]!;
      group.used = used + stride;
    }
  }

  private makeRoom(group: Group): void {
    const full = Math.floor(GROUP_UNITS / this.stride) * this.stride;
    if (group.units.length < full) {
      const more = new Float64Array(Math.min(full, Math.max(64 * this.stride, group.units.length * 4)));
      more.set(group.units);
      group.units = more;
      return;
    }
    this.fd ??= openSync(this.file, 'w+');
    writeSync(this.fd, group.units, 0, group.used * 8, this.written);
    group.onDisk.push({ at: this.written, units: group.used });
    this.written += group.used * 8;
    group.used = 0;
  }

  /** The rows group by group, each in the order in which they came. */
  *take(): Generator<AddressedRows> {
    for (const group of this.groups) {
      const units = group.onDisk.reduce((sum, one) => sum + one.units, group.used);
      if (units === 0) continue;
      const whole = new Float64Array(units);
      let at = 0;
      for (const one of group.onDisk) {
        readSync(this.fd!, whole, at * 8, one.units * 8, one.at);
        at += one.units;
      }
      whole.set(group.units.subarray(0, group.used), at);
      yield this.columns(whole);
    }
  }

  private columns(floats: Float64Array): AddressedRows {
    const { stride } = this;
    const ints = new Uint32Array(floats.buffer);
    const rows = floats.length / stride;
    const facts = emptyFacts(rows, GRAINS[this.grain].values.length);
    const address = new Uint32Array(rows);
    const part = new Uint32Array(rows);
    for (let row = 0; row < rows; row++) {
      const unit = row * stride;
      address[row] = ints[2 * unit]!;
      facts.query[row] = ints[2 * unit + 1]!;
      facts.day[row] = ints[2 * unit + 2]!;
      const division = ints[2 * unit + 3]!;
      facts.device[row] = division & 7;
      facts.country[row] = division >>> 3;
      if (this.hasParts) part[row] = ints[2 * (unit + stride - 1)]!;
    }
    facts.values.forEach((column, v) => {
      for (let row = 0; row < rows; row++) column[row] = floats[row * stride + 2 + v]!;
    });
    return { ...facts, address, part };
  }

  /** Drops what waits on disk. */
  close(): void {
    if (this.fd !== null) closeSync(this.fd);
    this.fd = null;
    rmSync(this.file, { force: true });
  }
}
