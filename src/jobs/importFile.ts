import { stat } from 'node:fs/promises';
import type { Day } from '../core/calendar/day';
import type { Span } from '../core/calendar/span';
import { GRAINS } from '../core/facts/grains';
import type { AddressedRows } from '../core/facts/sortAndPack';
import { EndlessRecord } from '../core/intake/blocks';
import { headKey, unreadColumns } from '../core/intake/columns';
import { isOfPeriod, needsPeriod } from '../core/intake/grain';
import type { Stated } from '../core/intake/inspection';
import { intakeSettingsSchema, statedIn } from '../core/intake/settings';
import { UnsettledDates } from '../core/intake/rowReader';
import type { Site } from '../core/model/site';
import {
  ImportWriter,
  failImport,
  MOST_REFUSED_KEPT,
  type ArrivingAttribute,
  type RefusedRow,
} from '../store/figures/arrival';
import type { Db } from '../store/database';
import { allowsPrivateHosts } from '../store/figures/feeds';
import { findImport, rememberSettings, updateImport, type ImportRow } from '../store/figures/imports';
import { forgetProgress, noteProgress } from '../store/figures/importProgress';
import { findSite } from '../store/sites';
import { timestamp } from '../store/write';
import { importLedger } from './importLedger';
import { FileRefused } from './intake/fileRefused';
import { readersFor, type ReadBy, type Readers } from './intake/readers';
import type { ReadingPlan } from './intake/rows';
import { noneCounts, planFor, rememberedFor, settleDateOrder } from './intake/settings';
import { asText } from './intake/asText';
import { Spill } from './intake/spill';
import { blocksOf, dialectOf, readHead } from './intake/text';
import type { CsvHead } from './intake/csvHead';

/** How often the moving count is written where others can see it. */
const PROGRESS_EVERY_MS = 200;
/** Files below this are over before another thread has started. */
const THREADS_FROM_BYTES = 24 * 1024 * 1024;
/** Different texts in one file; more would not fit in memory. */
const MOST_TEXTS = 2_000_000;
/** Characters of refused rows that are kept; the rest are only counted. */
const MOST_REFUSED_CHARACTERS = 32_000_000;
const MOST_ATTRIBUTES = 2_000_000;

export type ImportOptions = {
  /**
   * Threads that read beside this one, which stores; by default as many as the file size is worth.
   */
  readonly threads?: number;
  /** Waited for once everything is stored, just before it counts. */
  readonly beforeCounting?: (siteId: number) => Promise<void>;
};

/**
 * Imports a file: reads and checks its rows, then stores all and marks the import done. A file that
 * can’t be read is marked failed with a sentence, and nothing is stored.
 */
export async function importFile(
  db: Db,
  importId: number,
  file: string,
  options: ImportOptions = {},
): Promise<void> {
  const row = findImport(db, importId);
  const site = row && findSite(db, row.siteId);
  if (!row || !site) return;
  forgetProgress(db, importId);
  await updateImport(db, importId, { state: 'running', startedAt: timestamp() });
  if (row.about === 'changes') {
    await importLedger(db, row, site, file);
    return;
  }
  const intake = new Intake(db, row, site, file);
  try {
    await intake.run(options);
  } catch (error) {
    if (!(error instanceof FileRefused)) throw error;
    await failImport(
      db,
      importId,
      intake.showsContent ? error.message : WITHHELD,
      intake.counts,
      intake.refused,
    );
  } finally {
    forgetProgress(db, importId);
    await intake.close();
  }
}

/** Replaces errors that would quote a host on a private network: it may serve anything. */
const WITHHELD =
  'Not readable as figures. The content is hidden because the feed’s host is on a private network.';

/** One file on its way in. */
class Intake {
  readonly counts = { read: 0, refused: 0, leftOut: 0 };
  readonly refused: RefusedRow[] = [];
  private readonly attributes: ArrivingAttribute[] = [];
  private readonly names = {
    addresses: new Numbers(),
    queries: new Numbers(''),
    labels: new Numbers(''),
  };
  /** Whether refused rows and errors may quote the file. */
  readonly showsContent: boolean;
  private spill: Spill | null = null;
  private readers: Readers | null = null;
  private refusedSize = 0;
  private reported = 0;

  constructor(
    private readonly db: Db,
    private readonly row: ImportRow,
    private readonly site: Site,
    private readonly file: string,
  ) {
    this.showsContent = row.feedId === null || !allowsPrivateHosts(db, row.feedId);
  }

  async run({ threads, beforeCounting }: ImportOptions): Promise<void> {
    const { row, site, db } = this;
    const { file, madeOf } = await asText(this.file);
    const settings = intakeSettingsSchema.parse(JSON.parse(row.settings ?? '{}'));
    const csv = await readHead(file, settings.headLine);
    await updateImport(db, row.id, { dialect: madeOf ?? dialectOf(csv) });
    const stated = statedIn(settings);
    const remembered = rememberedFor(db, site.id, csv.head);
    const plan = planFor(csv, stated, remembered, site, row.takenOn as Day);
    const beside = threads ?? ((await stat(file)).size < THREADS_FROM_BYTES && !csv.gzip ? 0 : 2);
    try {
      await this.read(file, csv, plan, beside);
    } catch (error) {
      if (!(error instanceof UnsettledDates)) throw error;
      const dateOrder = await settleDateOrder(file, csv, plan.mapping.date ?? 0, remembered);
      await this.read(file, csv, { ...plan, dateOrder }, beside);
    }
    this.stopIfCancelled();
    this.refuseEmpty(plan);
    const arrival = await this.store(plan, periodOf(plan, stated));
    await beforeCounting?.(site.id);
    await arrival.finish(this.counts, this.refused);
    if (settings.mapping || settings.dateOrder || settings.counted)
      await rememberSettings(db, site.id, headKey(csv.head), settings);
  }

  private async read(file: string, csv: CsvHead, plan: ReadingPlan, threads: number): Promise<void> {
    await this.forget();
    const hasParts = unreadColumns(plan.mapping, plan.columns).length > 0;
    const dated = GRAINS[plan.grain].dated;
    const spill = (this.spill = new Spill(`${this.file}.rows`, plan.grain, hasParts, !dated));
    let bytesRead = 0;
    const blocks = blocksOf(file, csv, (bytes) => (bytesRead = bytes));
    this.readers = readersFor(plan, threads);
    // What each reader calls a text, by the reader's number for it.
    const known = new Map<number, ReaderNumbers>();
    let line = 1;
    try {
      for await (const { reader, block } of this.readers.read(blocks)) {
        const numbers = known.get(reader) ?? { addresses: [], queries: [0], labels: [0] };
        known.set(reader, numbers);
        this.take(numbers, block, spill, line, plan.mapping.query != null);
        line += block.lines;
        this.report(bytesRead);
      }
    } catch (error) {
      if (error instanceof EndlessRecord) throw new FileRefused(error.sentence(line));
      throw error;
    }
  }

  private take(
    numbers: ReaderNumbers,
    block: ReadBy['block'],
    spill: Spill,
    line: number,
    byQuery: boolean,
  ): void {
    for (const kind of ['addresses', 'queries', 'labels'] as const) {
      for (const text of block.met[kind]) numbers[kind].push(this.names[kind].of(text));
      if (this.names[kind].texts.length > MOST_TEXTS)
        throw new FileRefused(`The file has more than two million different ${kind}; divide it.`);
    }
    this.counts.read += block.read;
    this.counts.refused += block.refused.length;
    this.counts.leftOut += block.leftOut;
    for (const row of block.refused) {
      const size = row.cells.reduce((sum, cell) => sum + cell.length, 0);
      if (this.refused.length >= MOST_REFUSED_KEPT || this.refusedSize + size > MOST_REFUSED_CHARACTERS)
        break;
      this.refusedSize += size;
      const shown = this.showsContent ? row : { ...row, message: WITHHELD, cells: [] };
      this.refused.push({ ...shown, line: line + row.line - 1 });
    }
    const subjects = byQuery ? numbers.queries : numbers.addresses;
    for (const one of block.attributes) this.attributes.push({ ...one, subject: subjects[one.subject]! });
    if (this.attributes.length > MOST_ATTRIBUTES)
      throw new FileRefused('The file states more than two million things; divide it.');
    spill.add(block, numbers.addresses, numbers.queries, numbers.labels);
  }

  private async store(plan: ReadingPlan, period: Span | 'weeks' | null): Promise<ImportWriter> {
    const arrival = new ImportWriter(this.db, this.row.id, this.site, plan.grain, period);
    const { addresses, queries, labels } = this.names;
    await arrival.name({ addresses: addresses.texts, queries: queries.texts, labels: labels.texts });
    const start = period === 'weeks' ? period : (period?.firstDay ?? null);
    for await (const laid of this.readers!.sortAndPack(this.numbered(arrival), start)) {
      await arrival.store(laid);
      this.stopIfCancelled();
    }
    if (this.attributes.length > 0) await arrival.state(this.attributes);
    return arrival;
  }

  private *numbered(arrival: ImportWriter): Generator<AddressedRows> {
    for (const rows of this.spill!.take()) {
      arrival.number(rows);
      yield rows;
    }
  }

  /** What a first reading gathered before it turned out that something was not settled. */
  private async forget(): Promise<void> {
    await this.close();
    this.counts.read = 0;
    this.counts.refused = 0;
    this.counts.leftOut = 0;
    this.refused.length = 0;
    this.refusedSize = 0;
    this.attributes.length = 0;
  }

  async close(): Promise<void> {
    this.spill?.close();
    await this.readers?.end();
  }

  private report(bytesRead: number): void {
    if (Date.now() - this.reported < PROGRESS_EVERY_MS) return;
    this.reported = Date.now();
    try {
      const { read: rowsRead, refused: rowsRefused } = this.counts;
      noteProgress(this.db, this.row.id, { rowsRead, rowsRefused, bytesRead });
    } catch {
      // The disk may be full just now; the next report will do.
    }
    this.stopIfCancelled();
  }

  private stopIfCancelled(): void {
    if (findImport(this.db, this.row.id)?.cancelled ?? true)
      throw new FileRefused('Cancelled before anything was stored.');
  }

  private refuseEmpty({ mapping }: ReadingPlan): void {
    const { read, refused, leftOut } = this.counts;
    if (read === 0) throw new FileRefused('The file has a head and no rows.');
    if (leftOut === read) throw new FileRefused(noneCounts(mapping), 'counted');
    if (refused + leftOut === read) {
      throw new FileRefused(
        'None of the rows could be read; the reasons are listed with their lines. Nothing was stored.',
      );
    }
  }
}

/**
 * What the rows of a file hold for: one stated period, the week that each names, or (null) their
 * days.
 */
function periodOf({ grain, mapping }: ReadingPlan, { period }: Stated): Span | 'weeks' | null {
  if (!isOfPeriod(grain)) return null;
  return needsPeriod(grain, mapping) ? period! : 'weeks';
}

type ReaderNumbers = { addresses: number[]; queries: number[]; labels: number[] };

/** Numbers texts in the order in which they come. */
class Numbers {
  readonly texts: string[] = [];
  private readonly known = new Map<string, number>();

  constructor(...first: string[]) {
    for (const text of first) this.of(text);
  }

  of(text: string): number {
    let number = this.known.get(text);
    if (number === undefined) {
      number = this.texts.length;
      this.known.set(text, number);
      this.texts.push(text);
    }
    return number;
  }
}
