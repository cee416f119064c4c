import { parseJson } from '../../core/parseJson';
import { namedError } from '../../core/errors';
import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import yauzl, { type Entry, type ZipFile } from 'yauzl';
import yazl from 'yazl';
import { z } from 'zod';
import { siteAddress } from '../../core/address/address';
import { prepared, type Db } from '../database';
import type { ArchiveFile } from './contents';

/*
 * An archive of a site is a ZIP of text files, with a manifest that has the size, the rows and the checksum of each. It is read
 * only where every one of them is what the manifest says.
 */

export const ARCHIVE_FORMAT = 1;
const MANIFEST = 'manifest.json';
const MOST_MANIFEST_BYTES = 16 * 1024 * 1024;
/** Files in one archive: a feed that brought figures daily for fifty years has some 20,000. */
const MOST_FILES = 50_000;
const MOST_ARCHIVE_BYTES = 64 * 1024 ** 3;
/** As for other packed files: what is unpacked may be so many times larger, from a size on. */
const MOST_SWELLING = 250;
const SWELLING_ALLOWED_BYTES = 64 * 1024 * 1024;

const sealSchema = z.strictObject({
  name: z.string().max(200),
  rows: z.int().nonnegative(),
  bytes: z.int().nonnegative().max(MOST_ARCHIVE_BYTES),
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
});
const manifestSchema = z.strictObject({
  about: z.literal('A site of Modest Tally'),
  format: z.int().positive(),
  madeAt: z.string().max(40),
  files: z.array(sealSchema).max(MOST_FILES),
});
export type ArchiveManifest = z.infer<typeof manifestSchema>;
export type Seal = z.infer<typeof sealSchema>;

/** Entries carry no time of their own: the same site has the same bytes. */
const NO_TIME = new Date(Date.UTC(2000, 0, 1));

/** Writes files as an archive, each while it is read. `progress` is told of the rows so far. */
export function archiveZip(
  files: Iterable<ArchiveFile>,
  madeAt: string,
  progress: (rows: number) => void = () => {},
): Readable {
  const zip = new yazl.ZipFile();
  const seals: Seal[] = [];
  let total = 0;
  // One file at a time: the next begins when the one before it is written, so that little waits in memory.
  const add = (rest: Iterator<ArchiveFile>): void => {
    const next = rest.next();
    if (next.done) {
      const manifest: ArchiveManifest = {
        about: 'A site of Modest Tally',
        format: ARCHIVE_FORMAT,
        madeAt,
        files: seals,
      };
      zip.addBuffer(Buffer.from(`${JSON.stringify(manifest, null, 1)}\n`), MANIFEST, { mtime: NO_TIME });
      zip.end();
      return;
    }
    const { name, pieces } = next.value;
    const hash = createHash('sha256');
    let [bytes, rows] = [0, 0];
    const chunks = function* () {
      for (const piece of pieces) {
        const chunk = Buffer.from(piece.text);
        hash.update(chunk);
        bytes += chunk.length;
        rows += piece.rows;
        total += piece.rows;
        progress(total);
        yield chunk;
      }
    };
    const stream = Readable.from(chunks(), { highWaterMark: 1 });
    stream.once('end', () => {
      seals.push({ name, rows, bytes, sha256: hash.digest('hex') });
      add(rest);
    });
    stream.once('error', (error) => (zip.outputStream as Readable).destroy(error));
    zip.addReadStream(stream, name, { mtime: NO_TIME });
  };
  add(files[Symbol.iterator]());
  return zip.outputStream as Readable;
}

/** An archive cannot be taken; the message is a sentence for the person who sent it. */
export class ArchiveRefused extends namedError('ArchiveRefused') {}

/** An archive whose manifest was read and whose files are all there, and no others. */
export class ArchiveReader {
  private constructor(
    private readonly zip: ZipFile,
    private readonly entries: ReadonlyMap<string, Entry>,
    readonly manifest: ArchiveManifest,
  ) {}

  /** Throws ArchiveRefused. */
  static async open(file: string): Promise<ArchiveReader> {
    const broken = () => new ArchiveRefused('This is no archive of a site, or it is broken or cut off.');
    const zip = await yauzl.openPromise(file, { autoClose: false }).catch(() => {
      throw broken();
    });
    try {
      const entries = new Map<string, Entry>();
      try {
        for await (const entry of zip.eachEntry()) {
          if (entries.size > MOST_FILES || entries.has(entry.fileName)) throw broken();
          entries.set(entry.fileName, entry);
        }
      } catch {
        throw broken();
      }
      const entry = entries.get(MANIFEST);
      if (!entry || entry.uncompressedSize > MOST_MANIFEST_BYTES) throw broken();
      const chunks: Buffer[] = [];
      for await (const chunk of bounded(await zip.openReadStreamPromise(entry), MOST_MANIFEST_BYTES))
        chunks.push(chunk);
      const said = parsed(Buffer.concat(chunks).toString('utf8'));
      if (said !== null && typeof said.format === 'number' && said.format > ARCHIVE_FORMAT)
        throw new ArchiveRefused(
          'The archive was made by a newer version of Modest Tally. Update the program first.',
        );
      const manifest = manifestSchema.safeParse(said);
      if (!manifest.success) throw new ArchiveRefused('The manifest of the archive cannot be read.');
      const names = new Set(manifest.data.files.map(({ name }) => name));
      if (names.size !== manifest.data.files.length || names.has(MANIFEST)) throw broken();
      for (const name of names)
        if (!entries.has(name))
          throw new ArchiveRefused(`The archive lacks ${name}, which its manifest names.`);
      for (const name of entries.keys())
        if (name !== MANIFEST && !names.has(name))
          throw new ArchiveRefused(
            `The archive holds ${name.slice(0, 80)}, which its manifest does not name.`,
          );
      const unpacked = manifest.data.files.reduce((sum, { bytes }) => sum + bytes, 0);
      if (
        unpacked >
        Math.max(SWELLING_ALLOWED_BYTES, Math.min(MOST_ARCHIVE_BYTES, MOST_SWELLING * zip.fileSize))
      )
        throw new ArchiveRefused('The archive swells to hundreds of times its size when it is unpacked.');
      return new ArchiveReader(zip, entries, manifest.data);
    } catch (error) {
      zip.close();
      throw error instanceof ArchiveRefused ? error : broken();
    }
  }

  /** The size, rows and checksum of a file; undefined where the archive has none of that name. */
  seal(name: string): Seal | undefined {
    return this.manifest.files.find((one) => one.name === name);
  }

  /** Throws ArchiveRefused where the archive does not say which site it is of, or that site is here already. */
  async refuseKnownSite(db: Db): Promise<void> {
    const seal = this.seal('site.json');
    if (!seal || seal.bytes > MOST_MANIFEST_BYTES)
      throw new ArchiveRefused('The archive does not say which site it is of.');
    const chunks: Buffer[] = [];
    for await (const chunk of this.bytesOf(seal)) chunks.push(chunk);
    const [one] = (parsed(Buffer.concat(chunks).toString('utf8')) ?? []) as unknown[];
    const address = (one as { address?: unknown } | undefined)?.address;
    refuseKnownAddress(db, typeof address === 'string' ? address : '');
  }

  /** Holds every file against the manifest. Throws ArchiveRefused. */
  async check(): Promise<void> {
    for (const seal of this.manifest.files) {
      const hash = createHash('sha256');
      let bytes = 0;
      for await (const chunk of this.bytesOf(seal)) {
        hash.update(chunk);
        bytes += chunk.length;
      }
      if (bytes !== seal.bytes || hash.digest('hex') !== seal.sha256)
        throw new ArchiveRefused(`${seal.name} in the archive is not what it was when the archive was made.`);
    }
  }

  /** The bytes of a file, a piece at a time, never more than its seal says. Throws ArchiveRefused. */
  async *bytesOf({ name, bytes }: Seal): AsyncGenerator<Buffer> {
    try {
      yield* bounded(await this.zip.openReadStreamPromise(this.entries.get(name)!), bytes);
    } catch (error) {
      if (error instanceof ArchiveRefused) throw error;
      throw new ArchiveRefused(`${name} in the archive is broken, and cannot be unpacked.`);
    }
  }

  close(): void {
    this.zip.close();
  }
}

/** Throws ArchiveRefused where a site is here already, or its address is none. */
export function refuseKnownAddress(db: Db, address: string): void {
  let normal: string | null = null;
  try {
    normal = siteAddress(address);
  } catch {
    // Said below.
  }
  if (normal !== address) throw new ArchiveRefused('The archive does not say which site it is of.');
  const there = prepared<[string], number>(db, 'SELECT deleted_at IS NOT NULL FROM site WHERE address = ?')
    .pluck()
    .get(address);
  if (there === 0) throw new ArchiveRefused(`There is a site at ${address} already. Nothing was changed.`);
  if (there === 1)
    throw new ArchiveRefused(
      `The site at ${address} was deleted and can still be put back. Nothing was changed.`,
    );
}

async function* bounded(stream: Readable, most: number): AsyncGenerator<Buffer> {
  let bytes = 0;
  for await (const chunk of stream as AsyncIterable<Buffer>) {
    bytes += chunk.length;
    if (bytes > most) {
      stream.destroy();
      throw new ArchiveRefused('A file in the archive is larger than its manifest says.');
    }
    yield chunk;
  }
}

function parsed(text: string): Record<string, unknown> | null {
  try {
    const value: unknown = parseJson(text);
    return typeof value === 'object' && value !== null ? (value as Record<string, unknown>) : null;
  } catch {
    return null;
  }
}
