'use client';

import { csvOf } from '@/core/words/csv';

/** Offers rows as a CSV file to save. Cells that a spreadsheet program would run as formulas are made harmless. */
export function saveCsv(fileName: string, rows: readonly Record<string, string | number | null>[]): void {
  const url = URL.createObjectURL(new Blob(['\ufeff', csvOf(rows)], { type: 'text/csv;charset=utf-8' }));
  const link = document.createElement('a');
  link.href = url;
  link.download = fileName;
  link.click();
  // The download has its own hold on the data by then.
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
