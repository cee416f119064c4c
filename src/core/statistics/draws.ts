/* All random assignments to two halves: enumerated, or sampled if there are too many. */

import { randomLcg } from 'd3-random';

/** Where a unit was drawn to: its block, and whether it goes first. */
export type Placed = {
  /** Units of one block change places with each other only: the two of a pair, or all of them. */
  readonly block: number;
  readonly first: boolean;
};

/**
 * Assignments of units, by the units of the first half: those of a draw are `sent` entries from
 * `draw * sent` on.
 */
export type DrawTable = {
  readonly count: number;
  /** Whether these are all there are. */
  readonly exact: boolean;
  readonly sent: number;
  readonly first: Uint16Array;
};

/** So many draws are gone through one by one; of more a sample is taken. */
const MOST_EXACT = 50_000;
export const SAMPLED = 10_000;

/**
 * Assignments to halves within blocks, made once and shared by all measures and looks of an
 * experiment. Beyond 50,000, a sample of 10,000 is drawn by the seed, the actual one among them.
 *
 * @example new Draws(1).of(teaCups).count // 70: four of eight cups in one block
 */
export class Draws {
  private readonly known = new Map<string, DrawTable>();

  constructor(private readonly seed: number) {}

  of(units: readonly Placed[]): DrawTable {
    const key = units.map(({ block, first }) => `${block}${first ? '+' : '-'}`).join();
    let table = this.known.get(key);
    if (!table) this.known.set(key, (table = drawsOf(units, this.seed)));
    return table;
  }
}

function drawsOf(units: readonly Placed[], seed: number): DrawTable {
  const blocks = blocksOf(units);
  const all = blocks.reduce((product, { rows, first }) => product * choose(rows.length, first), 1);
  const exact = all <= MOST_EXACT;
  const write = exact ? inOrder(blocks) : shuffled(blocks, units, seed);
  const count = exact ? all : SAMPLED;
  const sent = blocks.reduce((sum, { first }) => sum + first, 0);
  const first = new Uint16Array(count * sent);
  for (let i = 0; i < count; i++) write(first, i * sent);
  return { count, exact, sent, first };
}

/** Writes the first half of the next draw into a table, starting at `at`. */
type WriteDraw = (table: Uint16Array, at: number) => void;

type Block = { readonly rows: readonly number[]; readonly first: number };

function blocksOf(units: readonly Placed[]): Block[] {
  const byBlock = new Map<number, number[]>();
  units.forEach(({ block }, row) => {
    const rows = byBlock.get(block);
    if (rows) rows.push(row);
    else byBlock.set(block, [row]);
  });
  return [...byBlock.values()].map((rows) => ({
    rows,
    first: rows.filter((row) => units[row]!.first).length,
  }));
}

/** How many ways there are to choose some of several. */
function choose(of: number, some: number): number {
  let ways = 1;
  for (let i = 1; i <= Math.min(some, of - some); i++) ways = (ways * (of - i + 1)) / i;
  return Math.round(ways);
}

/** All draws one after the other: block by block, like the digits of a number. */
function inOrder(blocks: readonly Block[]): WriteDraw {
  const states = blocks.map(({ first }) => Array.from({ length: first }, (_, i) => i));
  return (table, at) => {
    blocks.forEach(({ rows }, b) => states[b]!.forEach((chosen) => (table[at++] = rows[chosen]!)));
    for (let b = 0; b < blocks.length; b++) if (nextCombination(states[b]!, blocks[b]!.rows.length)) return;
  };
}

/** The next combination in lexical order; false where it begins anew. */
function nextCombination(chosen: number[], of: number): boolean {
  const size = chosen.length;
  for (let i = size - 1; i >= 0; i--) {
    if (chosen[i]! >= of - size + i) continue;
    chosen[i]! += 1;
    for (let k = i + 1; k < size; k++) chosen[k] = chosen[k - 1]! + 1;
    return true;
  }
  for (let i = 0; i < size; i++) chosen[i] = i;
  return false;
}

/** The draw that was made, then others at random. */
function shuffled(blocks: readonly Block[], units: readonly Placed[], seed: number): WriteDraw {
  const uniform = randomLcg((seed % 1_000_003) / 1_000_003);
  const made = units.flatMap(({ first }, row) => (first ? [row] : []));
  const longest = Math.max(...blocks.map(({ rows }) => rows.length));
  const order = new Uint16Array(longest);
  const others: WriteDraw = (table, at) => {
    for (const { rows, first } of blocks) {
      // Most blocks of large experiments are pairs: one number says which of the two goes first.
      if (rows.length === 2 && first === 1) {
        table[at++] = uniform() < 0.5 ? rows[1]! : rows[0]!;
        continue;
      }
      for (let i = 0; i < rows.length; i++) order[i] = rows[i]!;
      for (let i = rows.length - 1; i > 0; i--) {
        const k = Math.floor(uniform() * (i + 1));
        const other = order[i]!;
        order[i] = order[k]!;
        order[k] = other;
      }
      for (let i = 0; i < first; i++) table[at++] = order[i]!;
    }
  };
  let begun = false;
  return (table, at) => {
    if (begun) return others(table, at);
    begun = true;
    table.set(made, at);
  };
}
