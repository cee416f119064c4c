import type { Delimiter, Encoding, Form } from '../../core/intake/format';

/** How a figures file is written, as its beginning shows it. */
export type CsvHead = {
  readonly form: Form;
  readonly delimiter: Delimiter;
  readonly lineEnd: '\n' | '\r';
  readonly encoding: Encoding;
  readonly gzip: boolean;
  readonly head: readonly string[];
  /** The cells of the first row, as far as the beginning of the file shows them. */
  readonly first: readonly string[];
  /** Lines above the head, such as comments, which are passed over. */
  readonly skipped: number;
};
