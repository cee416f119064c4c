import { asDay } from '../core/calendar/day';
import { simulate } from './simulate';
import { CHANGES, EVENTS } from './story';
import { PAGES } from './pages';

const INPUT = {
  pages: PAGES.slice(0, 4),
  changes: CHANGES,
  events: EVENTS,
  lostDaysAgo: [20],
  lastDay: asDay(20_779),
  days: 60,
  seed: 7,
};

test('the same seed and day give the same figures, another seed others', () => {
  const once = simulate(INPUT);
  expect(simulate(INPUT)).toEqual(once);
  expect(simulate({ ...INPUT, seed: 8 })).not.toEqual(once);
});

test('no row has more clicks than impressions, none lies on a lost day, and positions are ranks', () => {
  const { pageRows, queryRows } = simulate(INPUT);
  for (const row of [...pageRows, ...queryRows]) {
    expect(row.clicks).toBeLessThanOrEqual(row.impressions);
    expect(row.clicks).toBeGreaterThanOrEqual(0);
    expect(row.position).toBeGreaterThanOrEqual(1);
    expect(row.day).not.toBe(20_759);
  }
});

test('query rows never add up to more than the page', () => {
  const { pageRows, queryRows } = simulate(INPUT);
  const sums = new Map<string, number>();
  const add = (key: string, n: number) => sums.set(key, (sums.get(key) ?? 0) + n);
  pageRows.forEach((row) => add(`${row.day}${row.path}`, row.impressions));
  queryRows.forEach((row) => add(`${row.day}${row.path}`, -row.impressions));
  expect(Math.min(...sums.values())).toBeGreaterThanOrEqual(0);
});

test('every change and page of the story is sound', () => {
  const paths = new Set(PAGES.map((page) => page.path));
  expect(paths.size).toBe(PAGES.length);
  for (const change of CHANGES) {
    for (const path of change.pages) expect(paths).toContain(path);
  }
});
