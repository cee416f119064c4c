/* What changed from one issue of a report to the next. */

import { plural } from '../words/format';
import type { ReportContent, ReportTable } from '../model/reportContent';

/** What of a table's rows, told apart by their first cell, came, went, or says something else now. */
function changedRows(was: ReportTable, is: ReportTable): string[] {
  const before = new Map(was.rows.map((row) => [row[0]?.text ?? '', row]));
  const now = new Map(is.rows.map((row) => [row[0]?.text ?? '', row]));
  const lines: string[] = [];
  for (const [name, row] of now) {
    const old = before.get(name);
    if (!old) {
      lines.push(`${name}: new.`);
      continue;
    }
    const cells = is.columns.flatMap((column, i) => {
      const at = was.columns.findIndex(({ name: other }) => other === column.name);
      const [a, b] = [old[at]?.text, row[i]?.text];
      return i > 0 && at > 0 && a !== b ? [`${column.name} was ${a}, is ${b}`] : [];
    });
    if (cells.length > 0) lines.push(`${name}: ${cells.join('; ')}.`);
  }
  const gone = [...before.keys()].filter((name) => !now.has(name));
  if (gone.length > 0)
    lines.push(`${plural(gone.length, 'line')} of “${is.title}” no longer there: ${gone.join(', ')}.`);
  return lines;
}

const MOST_LINES = 60;

/** The differences between two issues, in sentences; empty where there are none. */
export function changedSince(was: ReportContent, is: ReportContent): string[] {
  const lines = is.parts.flatMap(({ key, tables }) => {
    const old = was.parts.find((part) => part.key === key);
    return tables.flatMap((table) => {
      const same = old?.tables.find(({ title }) => title === table.title);
      return same ? changedRows(same, table) : [];
    });
  });
  return lines.length > MOST_LINES
    ? [...lines.slice(0, MOST_LINES), `And ${lines.length - MOST_LINES} more.`]
    : lines;
}
