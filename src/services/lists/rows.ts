import { COLUMNS, type Column, type ListSubject } from '../../core/lists/columns';
import { METRICS } from '../../core/measures/registry';
import type { ListLine } from '../../core/lists/line';

/** Columns of a saved list besides the measures and what is compared. */
const FURTHER: readonly Column[] = [
  ...(['expectedCtr', 'queries', 'pages', 'searches', 'changes', 'findings', 'weight'] as const),
  ...(['sessions', 'engagedShare', 'conversions', 'revenue', 'worth'] as const),
];

/** A cell of a saved list: absent where there is nothing. */
export type Cell = string | number | null;

type Saved = readonly [name: string, of: (line: ListLine) => Cell];
const saved = (name: string, of: (line: ListLine) => Cell): Saved => [name, of];

/** A list as a table to be saved: the head, and the cells of each line. Columns of which no line has anything are left out. */
export function listTable(
  subject: ListSubject,
  lines: readonly ListLine[],
): { head: string[]; rows: Cell[][] } {
  const columns: Saved[] = [
    ...(subject === 'queries' ? [] : [saved('page', ({ page }) => page?.address ?? null)]),
    ...(subject === 'pages' ? [] : [saved('query', ({ query }) => query?.text ?? null)]),
    ...METRICS.flatMap((metric) => [
      saved(metric, ({ metrics }) => metrics[metric].after),
      saved(`${metric} before`, ({ metrics }) => metrics[metric].before),
      metric === 'position'
        ? saved('places gained', ({ metrics }) => metrics.position.placesGained)
        : saved(`${metric} difference`, ({ metrics }) => metrics[metric].difference),
    ]),
    ...FURTHER.map((column) => saved(COLUMNS[column].name, ({ further }) => further[column] ?? null)),
    saved('title', ({ title }) => title),
    saved('group', ({ group }) => group),
    saved('for the site itself', ({ brand }) => (brand === null ? null : brand ? 'yes' : 'no')),
    saved('intent', ({ intent }) => intent),
    saved(subject === 'pages' ? 'target query' : 'target page', ({ target }) => target),
  ];
  const always = columns.findIndex(([name]) => name === COLUMNS[FURTHER[0]!].name);
  const kept = columns.filter(([, of], i) => i < always || lines.some((line) => of(line) !== null));
  return { head: kept.map(([name]) => name), rows: lines.map((line) => kept.map(([, of]) => of(line))) };
}
