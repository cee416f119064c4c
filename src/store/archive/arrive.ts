import { getTableName } from 'drizzle-orm';
import {
  BadFigures,
  figuresCells,
  figuresHead,
  piecesOfLines,
  readPiece,
} from '../../core/archive/figuresCsv';
import type { Numbered, Renumber } from '../../core/archive/numbering';
import { GRAIN_KEYS, GRAINS, type Grain } from '../../core/facts/grains';
import { packFacts, pieceOf } from '../../core/facts/pack';
import { prepared, type Db } from '../database';
import { piecesOfPages } from '../figures/derived';
import { labelIds } from '../figures/dictionary';
import { baseDay } from '../figures/layers';
import { deriveSeries } from '../figures/series';
import { isBusy, write } from '../write';
import { csvBlocks, jsonRows } from './lines';
import { purgeSite } from './purge';
import { refused, rowReader, type RowReader } from './rows';
import { ARCHIVED, type ArchivedTable } from './tables';
import { ArchiveRefused, refuseKnownAddress, type ArchiveReader, type Seal } from './zip';

/** Rows that are stored in one transaction, so that nobody waits long for a turn. */
const ROWS_AT_ONCE = 4000;
/** Pages whose series are derived in one transaction. */
const PAGES_AT_ONCE = 50;

const FIGURES = new RegExp(`^figures/(\\d{1,9})-(${GRAIN_KEYS.join('|')})\\.csv$`);

/**
 * Reads an archive into the database as a new site. Nobody sees it before all of it is there; where anything of it is not as it should
 * be, nothing of it stays. `progress` is told of the rows so far. Resolves to the id of the site. Throws ArchiveRefused.
 */
export async function arriveSite(
  db: Db,
  archive: ArchiveReader,
  progress: (rows: number) => void = () => {},
): Promise<number> {
  await archive.check();
  const tables = ARCHIVED.map((table) => {
    const seal = archive.seal(table.file);
    if (!seal) throw new ArchiveRefused(`The archive lacks ${table.file}.`);
    return { table, seal };
  });
  const known = new Set(ARCHIVED.map(({ file }) => file));
  const figures = archive.manifest.files.filter(({ name }) => !known.has(name));
  const stranger = figures.find(({ name }) => !FIGURES.test(name));
  if (stranger)
    throw new ArchiveRefused(`${stranger.name.slice(0, 80)} does not belong in an archive of a site.`);
  const arrival = new SiteArrival(db, archive, progress);
  try {
    for (const { table, seal } of tables) await arrival.table(table, seal);
    for (const seal of figures) await arrival.figures(seal);
    return await arrival.finish();
  } catch (error) {
    await arrival.takeBack();
    throw error;
  }
}

class SiteArrival {
  private siteId: number | null = null;
  private rows = 0;
  /** What comes before the first number of a kind here. */
  private readonly offsets = new Map<Numbered, number>();
  private readonly counts = new Map<Numbered, number>();
  private readonly texts = { address: new Map<string, number>(), query: new Map<string, number>() };
  private readonly labels = new Map<string, number>();

  constructor(
    private readonly db: Db,
    private readonly archive: ArchiveReader,
    private readonly progress: (rows: number) => void,
  ) {
    for (const { numbers, file } of ARCHIVED) if (numbers) this.counts.set(numbers, archive.seal(file)!.rows);
    // Layers count up within a site; there are no more of them than imports.
    this.counts.set('layer', this.counts.get('import')!);
  }

  private readonly renumber: Renumber = (kind, number) => {
    if (kind === 'layer') return number;
    if (number < 1 || number > this.counts.get(kind)!) return null;
    return number + this.offsets.get(kind)!;
  };

  async table(table: ArchivedTable, seal: Seal): Promise<void> {
    if (table.numbers) await this.reserve(table, table.numbers, seal.rows);
    const reader = rowReader(table, (kind) => this.counts.get(kind)!, this.renumber);
    let batch: (string | number | null)[][] = [];
    let line = 0;
    for await (const row of jsonRows(this.archive.bytesOf(seal), table)) {
      line++;
      if (line > seal.rows) break;
      this.noteNumber(table, row, line);
      const values = reader.read(row, line + 1);
      if (table.numbers === 'site') this.checkSite(reader, values);
      if (table.numbers === 'query' || table.numbers === 'address')
        this.texts[table.numbers].set(
          values[reader.columns.indexOf('text')] as string,
          values[reader.columns.indexOf('id')] as number,
        );
      batch.push(values);
      if (batch.length < ROWS_AT_ONCE) continue;
      await this.store(table, reader, batch, line - batch.length + 2);
      batch = [];
    }
    if (line !== seal.rows)
      throw new ArchiveRefused(
        `${table.file} in the archive has another number of rows than its manifest says.`,
      );
    await this.store(table, reader, batch, line - batch.length + 2);
  }

  /** Things are numbered from 1 on, in their order. */
  private noteNumber({ numbers, file }: ArchivedTable, row: unknown, line: number): void {
    if (numbers && (row as { id?: unknown } | null)?.id !== line)
      throw refused({ file }, line + 1, `it is numbered otherwise than ${line}.`);
  }

  /** Takes as many numbers as the archive has things of a kind, so that nobody else gets them meanwhile. */
  private async reserve({ table }: ArchivedTable, kind: Numbered, rows: number): Promise<void> {
    const name = getTableName(table);
    await write(this.db, (db) => {
      const last = (sql: string) => db.$client.prepare<[], number | null>(sql).pluck().get() ?? 0;
      const counted = last(`SELECT seq FROM sqlite_sequence WHERE name = '${name}'`);
      const offset = Math.max(counted, last(`SELECT max(id) FROM "${name}"`));
      this.offsets.set(kind, offset);
      const counts = /AUTOINCREMENT/i.test(
        db.$client
          .prepare<[string], string>("SELECT sql FROM sqlite_master WHERE type = 'table' AND name = ?")
          .pluck()
          .get(name)!,
      );
      if (rows === 0) return;
      if (counts) {
        const set = db.$client
          .prepare('UPDATE sqlite_sequence SET seq = ? WHERE name = ?')
          .run(offset + rows, name);
        if (set.changes === 0)
          db.$client
            .prepare('INSERT INTO sqlite_sequence (name, seq) VALUES (?, ?)')
            .run(name, offset + rows);
      } else {
        // The highest number is taken by a row that the last one of the archive takes the place of.
        const text = kind === 'page' ? 'address' : 'text';
        db.$client
          .prepare(`INSERT INTO "${name}" (id, site_id, ${text}) VALUES (?, ?, ' ')`)
          .run(offset + rows, this.siteId);
      }
    });
  }

  private checkSite({ columns }: RowReader, values: readonly unknown[]): void {
    if (this.archive.seal('site.json')!.rows !== 1)
      throw new ArchiveRefused('The archive does not say which site it is of.');
    refuseKnownAddress(this.db, String(values[columns.indexOf('address')]));
  }

  private async store(
    table: ArchivedTable,
    { columns }: RowReader,
    rows: readonly (readonly (string | number | null)[])[],
    line: number,
  ): Promise<void> {
    if (rows.length === 0) return;
    const isSite = table.numbers === 'site';
    const sql = `INSERT INTO "${getTableName(table.table)}" (${columns.map((name) => `"${name}"`).join(', ')})
      VALUES (${columns.map(() => '?').join(', ')})`;
    await write(this.db, (db) => {
      const insert = prepared<(string | number | null)[], never>(db, sql);
      if (isSite) {
        const hidden = rows.map((row) => row.map((value, i) => (columns[i] === 'arriving' ? 1 : value)));
        for (const row of hidden) this.siteId = Number(insert.run(...row).lastInsertRowid);
        return;
      }
      const last = this.lastOf(table);
      rows.forEach((row, i) => {
        if (last !== null && row[columns.indexOf('id')] === last)
          prepared(db, `DELETE FROM "${getTableName(table.table)}" WHERE id = ?`).run(last);
        try {
          insert.run(...row);
        } catch (error) {
          if (isBusy(error)) throw error;
          if (!String((error as { code?: unknown }).code).startsWith('SQLITE_CONSTRAINT')) throw error;
          throw refused(table, line + i, 'the same stands there twice, or it names what is not there.');
        }
      });
    });
    this.count(rows.length);
  }

  /** The number that was taken for a while by another row; null where none was. */
  private lastOf({ numbers }: ArchivedTable): number | null {
    return numbers === 'page' || numbers === 'query' || numbers === 'address'
      ? this.offsets.get(numbers)! + this.counts.get(numbers)!
      : null;
  }

  async figures(seal: Seal): Promise<void> {
    const [, number, name] = FIGURES.exec(seal.name)!;
    const grain = name as Grain;
    const importId = this.renumber('import', Number(number));
    if (importId === null)
      throw new ArchiveRefused(`${seal.name} is of an import that the archive does not have.`);
    let line = 2;
    let folded: boolean | null = null;
    let left: string[][] = [];
    for await (const block of csvBlocks(this.archive.bytesOf(seal))) {
      const cells = this.inLine(seal.name, line, () => figuresCells(block));
      if (folded === null) {
        const head = cells.shift()?.join(',');
        folded = head === figuresHead(grain, true).join(',');
        if (!folded && head !== figuresHead(grain, false).join(','))
          throw new ArchiveRefused(`${seal.name} in the archive has other columns than it should.`);
      }
      const lines = [...left, ...cells];
      // What stands last may go on in the next block.
      const pieces = this.inLine(seal.name, line, () => piecesOfLines(lines, grain, pieceOf));
      const whole = pieces.slice(0, -1);
      await this.storePieces(seal.name, importId, grain, folded, lines, whole, line);
      const next = whole.at(-1)?.to ?? 0;
      line += next;
      left = lines.slice(next);
    }
    if (folded === null) throw new ArchiveRefused(`${seal.name} in the archive is empty.`);
    const rest = this.inLine(seal.name, line, () => piecesOfLines(left, grain, pieceOf));
    await this.storePieces(seal.name, importId, grain, folded, left, rest, line);
    if (line - 2 + left.length !== seal.rows)
      throw new ArchiveRefused(
        `${seal.name} in the archive has another number of rows than its manifest says.`,
      );
  }

  private async storePieces(
    file: string,
    importId: number,
    grain: Grain,
    folded: boolean,
    lines: readonly string[][],
    pieces: ReturnType<typeof piecesOfLines>,
    line: number,
  ): Promise<void> {
    for (let at = 0; at < pieces.length; at += ROWS_AT_ONCE) {
      const some = pieces.slice(at, at + ROWS_AT_ONCE);
      await write(this.db, (db) => {
        const insert = prepared(
          db,
          'INSERT INTO figures (address_id, grain, piece, import_id, rows, bytes) VALUES (?, ?, ?, ?, ?, ?)',
        );
        const numbers = {
          query: (text: string) => this.texts.query.get(text) ?? null,
          country: (text: string) => this.labelOf(db, text),
        };
        for (const { address, piece, from, to } of some)
          this.inLine(file, line + from, () => {
            const addressId = this.texts.address.get(address);
            if (addressId === undefined) throw new BadFigures(0, 'Its page is none of those of the archive.');
            const { facts, vintage } = readPiece(lines.slice(from, to), grain, folded, numbers);
            const bytes = packFacts(facts, baseDay(grain, piece), vintage);
            try {
              insert.run(addressId, GRAINS[grain].code, piece, importId, facts.rows, bytes);
            } catch (error) {
              if (!String((error as { code?: unknown }).code).startsWith('SQLITE_CONSTRAINT')) throw error;
              throw new BadFigures(0, 'Rows of a page in the same days do not stand together.');
            }
          });
      });
      this.count(some.reduce((sum, { from, to }) => sum + to - from, 0));
    }
  }

  private labelOf(db: Db, text: string): number {
    const known = this.labels.get(text) ?? labelIds(db, [text])[0]!;
    this.labels.set(text, known);
    return known;
  }

  private inLine<T>(file: string, line: number, work: () => T): T {
    try {
      return work();
    } catch (error) {
      if (!(error instanceof BadFigures)) throw error;
      throw refused({ file }, line + error.row, error.message);
    }
  }

  private count(rows: number): void {
    this.rows += rows;
    this.progress(this.rows);
  }

  /** Derives what is derived, and lets everybody see the site. */
  async finish(): Promise<number> {
    const siteId = this.siteId!;
    const pieces = [...piecesOfPages(this.db, 'a.site_id = ?', siteId)];
    for (let at = 0; at < pieces.length; at += PAGES_AT_ONCE)
      await write(this.db, (db) => deriveSeries(db, new Map(pieces.slice(at, at + PAGES_AT_ONCE))));
    await write(this.db, (db) => prepared(db, 'UPDATE site SET arriving = 0 WHERE id = ?').run(siteId));
    return siteId;
  }

  async takeBack(): Promise<void> {
    if (this.siteId !== null) await purgeSite(this.db, this.siteId);
  }
}
