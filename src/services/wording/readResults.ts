import { unzipSync } from 'fflate';
import { readSheet } from 'read-excel-file/node';
import { MOST_SAVED_BYTES, resultsFromHtml } from '../../core/wording/fromHtml';
import { resultsFromSheet, resultsFromText, type ReadResults } from '../../core/wording/fromText';

/** What was read of something pasted or chosen: results, and the questions that a saved page prints. */
export type Read = ReadResults & { readonly asked: readonly string[] };

const [MOST_SHEET_BYTES, MOST_UNPACKED_BYTES] = [2_000_000, 40_000_000];
const ZIP = [0x50, 0x4b, 0x03, 0x04];
const HTML = /^\s*(?:<!doctype\s+html|<html|<head|<body|<!--)|<a\s[^>]*href=/i;

const refused = (problem: string): Read => ({ results: [], asked: [], problem });

/** Reads results from what was pasted or chosen: text, the rows of a sheet, or a saved page, told by what it begins with. */
export async function readResults(bytes: Uint8Array): Promise<Read> {
  if (bytes.length > MOST_SAVED_BYTES)
    return refused('This is larger than 5 MB, and no saved page of results.');
  if (ZIP.every((byte, i) => bytes[i] === byte)) return fromSheet(bytes);
  const text = new TextDecoder().decode(bytes);
  if (text.includes('\u0000')) return refused('This is neither text nor a page nor a spreadsheet.');
  if (HTML.test(text.slice(0, 20_000))) return resultsFromHtml(text);
  const found = resultsFromText(text);
  return { asked: [], ...found };
}

async function fromSheet(bytes: Uint8Array): Promise<Read> {
  if (bytes.length > MOST_SHEET_BYTES)
    return refused('The spreadsheet is larger than 2 MB; paste its rows instead.');
  let unpacked = 0;
  try {
    unzipSync(bytes, {
      filter: ({ originalSize }) => {
        unpacked += originalSize;
        return false;
      },
    });
    if (unpacked > MOST_UNPACKED_BYTES)
      return refused('The spreadsheet swells to more than 40 MB; paste its rows instead.');
    const rows = (await readSheet(Buffer.from(bytes))) as unknown[][];
    return { ...resultsFromSheet(rows), asked: [] };
  } catch {
    return refused('This is a ZIP file, and no spreadsheet (.xlsx) that can be read.');
  }
}
