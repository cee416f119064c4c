import { namedError } from '../errors';

/** A record that reaches further than this is none that an honest file has. */
export const MAX_RECORD_BYTES = 1024 * 1024;
const [QUOTE, LF, CR] = [0x22, 0x0a, 0x0d];

/** A record has no end: a line goes on and on, or a quotation mark is never closed. */
export class EndlessRecord extends namedError('EndlessRecord') {
  constructor(
    /** Whether it is a quotation mark that is never closed. */
    readonly quoted: boolean,
  ) {
    super('A record has no end.');
  }

  /** Says so, by the line on which the record begins. */
  sentence(line: number): string {
    return this.quoted
      ? `A quotation mark that opens on line ${line} or later is never closed.`
      : `Line ${line} has more than a million characters.`;
  }
}

/**
 * Cuts the bytes of a CSV between records, so that blocks can be read in parallel. A line end
 * within quotes isn’t a record end; a quote opens a quoted cell only at its beginning (RFC 4180,
 * 2.5-2.7). Bytes may be UTF-8 or any single-byte encoding.
 */
export class BlockCutter {
  private pending: Uint8Array[] = [];
  private pendingBytes = 0;
  private inQuotes = false;
  private closedJustNow = false;
  private atCellStart = true;

  /**
   * @param lineEnd "\n", or "\r" for files that use that alone
   * @param delimiter without one, every line is a record and quotes mean nothing
   */
  constructor(
    private readonly delimiter: string | null,
    private readonly lineEnd: '\n' | '\r',
  ) {}

  /** Takes the next bytes; gives those up to the last record that ended, or null where none did. */
  push(bytes: Uint8Array): Uint8Array | null {
    const cut = this.lastRecordEnd(bytes);
    if (cut === -1) {
      this.keep(bytes);
      return null;
    }
    const block = joined([...this.pending, bytes.subarray(0, cut)]);
    this.pending = [];
    this.pendingBytes = 0;
    if (cut < bytes.length) this.keep(bytes.subarray(cut));
    return block;
  }

  /** What is left when the file has ended: a last record without line end, or nothing. */
  end(): Uint8Array | null {
    if (this.inQuotes) throw new EndlessRecord(true);
    return this.pendingBytes === 0 ? null : joined(this.pending);
  }

  private keep(bytes: Uint8Array): void {
    this.pendingBytes += bytes.length;
    if (this.pendingBytes > MAX_RECORD_BYTES) throw new EndlessRecord(this.inQuotes);
    this.pending.push(bytes.slice());
  }

  /**
   * End of the last record within these bytes (after its line end), or -1; advances the state past
   * them.
   */
  private lastRecordEnd(bytes: Uint8Array): number {
    const end = this.lineEnd === '\n' ? LF : CR;
    if (this.delimiter === null) return bytes.lastIndexOf(end) + 1 || -1;
    if (!this.inQuotes && bytes.indexOf(QUOTE) === -1) {
      const last = bytes[bytes.length - 1];
      if (last !== undefined) {
        this.closedJustNow = false;
        this.atCellStart = last === end || last === this.delimiter.charCodeAt(0);
      }
      return bytes.lastIndexOf(end) + 1 || -1;
    }
    const delimiter = this.delimiter.charCodeAt(0);
    let { inQuotes, closedJustNow, atCellStart } = this;
    let cut = -1;
    for (let i = 0; i < bytes.length; i++) {
      const byte = bytes[i]!;
      if (byte === QUOTE) {
        if (inQuotes) {
          inQuotes = false;
          closedJustNow = true;
        } else {
          // Two marks in a row stand for one, and the cell goes on.
          if (atCellStart || closedJustNow) inQuotes = true;
          closedJustNow = false;
        }
        atCellStart = false;
      } else if (!inQuotes) {
        closedJustNow = false;
        atCellStart = byte === delimiter || byte === end;
        if (byte === end) cut = i + 1;
      }
    }
    this.inQuotes = inQuotes;
    this.closedJustNow = closedJustNow;
    this.atCellStart = atCellStart;
    return cut;
  }
}

function joined(pieces: readonly Uint8Array[]): Uint8Array {
  const [only] = pieces;
  const bytes = pieces.reduce((sum, piece) => sum + piece.length, 0);
  // A copy in any case: the bytes are handed to another thread, whole memory and all.
  if (pieces.length === 1 && only!.byteOffset === 0 && only!.buffer.byteLength === only!.length) return only!;
  const whole = new Uint8Array(bytes);
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}
