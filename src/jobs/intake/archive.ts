import { createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import yauzl from 'yauzl';
import { FileRefused } from './fileRefused';
import { readHead } from './text';
import type { LeftOut, Unpacked, Unpacking } from './unpacking';

const MOST_FILES = 200;
/** Largest ratio of unpacked to packed size, as for other packed files. */
const MAX_SWELLING = 250;
const SWELLING_ALLOWED_BYTES = 64 * 1024 * 1024;
const MAX_UNPACKED_BYTES = 32 * 1024 ** 3;

/** Files that programs put into archives for themselves. */
const OF_PROGRAMS = /(^|\/)(__MACOSX\/|\.|Thumbs\.db$|desktop\.ini$)/;

/**
 * Whether a ZIP file is a spreadsheet (ISO/IEC 29500-2: it has a part named [Content_Types].xml).
 */
export async function isSpreadsheet(archive: string): Promise<boolean> {
  const zip = await opened(archive);
  try {
    for await (const { fileName } of zip.eachEntry()) if (fileName === '[Content_Types].xml') return true;
    return false;
  } catch {
    throw new FileRefused('This is a ZIP file, broken or cut off.');
  } finally {
    zip.close();
  }
}

/**
 * Unpacks the tables of an archive (ZIP) into files named by `place`, with reasons for those left
 * out. Throws FileRefused if the archive or all of its files can’t be read.
 */
export async function unpackArchive(
  archive: string,
  packedBytes: number,
  place: (number: number) => string,
): Promise<Unpacking> {
  const zip = await opened(archive);
  const files: Unpacked[] = [];
  const leftOut: LeftOut[] = [];
  let total = 0;
  const mayUnpack = (bytes: number) =>
    bytes <= MAX_UNPACKED_BYTES && (bytes <= SWELLING_ALLOWED_BYTES || bytes <= packedBytes * MAX_SWELLING);
  try {
    for await (const entry of zip.eachEntry()) {
      const name = entry.fileName;
      if (name.endsWith('/') || OF_PROGRAMS.test(name)) continue;
      const reason =
        files.length + leftOut.length >= MOST_FILES
          ? `An archive may have at most ${MOST_FILES} files.`
          : entry.isEncrypted()
            ? 'It is locked with a password.'
            : mayUnpack(total + entry.uncompressedSize)
              ? null
              : 'It swells to hundreds of times its size when it is unpacked.';
      if (reason !== null) {
        leftOut.push({ name, reason });
        continue;
      }
      const file = place(files.length);
      try {
        const bytes = await unpack(zip, entry, file);
        total += bytes;
        await refuseNoTable(file);
        files.push({ name, file, bytes });
      } catch (error) {
        await rm(file, { force: true });
        const why = error instanceof FileRefused ? error.message : 'It is broken, and cannot be unpacked.';
        leftOut.push({ name, reason: why });
      }
    }
  } catch {
    await Promise.all(files.map(({ file }) => rm(file, { force: true })));
    throw new FileRefused('This is a ZIP file, broken or cut off.');
  } finally {
    zip.close();
  }
  if (files.length > 0) return { files, leftOut };
  const named = leftOut.slice(0, 5).map(({ name, reason }) => `${name}: ${reason}`);
  throw new FileRefused(
    named.length === 0
      ? 'The archive is empty.'
      : `None of the files in the archive can be read. ${named.join(' ')}`,
  );
}

async function opened(archive: string): Promise<yauzl.ZipFile & { eachEntry(): AsyncIterable<yauzl.Entry> }> {
  let zip: yauzl.ZipFile;
  try {
    zip = await new Promise<yauzl.ZipFile>((resolve, reject) =>
      // Names are only shown, and never become paths.
      yauzl.open(archive, { lazyEntries: true, autoClose: false }, (error, found) =>
        error ? reject(error) : resolve(found!),
      ),
    );
  } catch {
    throw new FileRefused('This is a ZIP file, broken or cut off.');
  }
  return Object.assign(zip, { eachEntry: () => entriesOf(zip) });
}

async function* entriesOf(zip: yauzl.ZipFile): AsyncGenerator<yauzl.Entry> {
  for (;;) {
    const entry = await new Promise<yauzl.Entry | null>((resolve, reject) => {
      const settle = (act: () => void) => {
        zip.off('entry', onEntry).off('end', onEnd).off('error', onError);
        act();
      };
      const onEntry = (found: yauzl.Entry) => settle(() => resolve(found));
      const onEnd = () => settle(() => resolve(null));
      const onError = (error: Error) => settle(() => reject(error));
      zip.on('entry', onEntry).on('end', onEnd).on('error', onError);
      zip.readEntry();
    });
    if (entry === null) return;
    yield entry;
  }
}

/** Unpacks one file; the library checks that it is as large as it says. Gives its size. */
async function unpack(zip: yauzl.ZipFile, entry: yauzl.Entry, file: string): Promise<number> {
  const stream = await new Promise<NodeJS.ReadableStream>((resolve, reject) =>
    zip.openReadStream(entry, (error, found) => (error ? reject(error) : resolve(found!))),
  );
  let bytes = 0;
  const counted = new Transform({
    transform(piece: Buffer, _encoding, done) {
      bytes += piece.length;
      done(null, piece);
    },
  });
  await pipeline(stream, counted, createWriteStream(file));
  return bytes;
}

/**
 * Throws FileRefused unless a file is a table. Spreadsheets and Parquet files within archives
 * aren’t opened.
 */
async function refuseNoTable(file: string): Promise<void> {
  await readHead(file);
}
