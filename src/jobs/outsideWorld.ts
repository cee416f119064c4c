import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import Papa from 'papaparse';
import { parseIsoDay, type Day } from '../core/calendar/day';
import { get, type Get } from '../outside/http/get';
import { simulatedFeed, type TrueRow } from '../outside/figuresFeed/simulated';
import { today } from '../store/clock';
import { dataDir } from '../store/database';

/** The token that the simulated feed of the demo asks for. */
export const DEMO_TOKEN = 'bee-yard';

/** Where the demo leaves what its simulated feed knows. */
export function simulatedFigures(dir = dataDir()): string {
  return path.join(dir, 'outside', 'figures.csv');
}

/**
 * What answers for an address: the open internet, or for names that no real host can have (`.example`, RFC 2606) the
 * simulated world of the demo.
 */
export function reach(address: string): Get {
  const host = new URL(address).hostname;
  if (!host.endsWith('.example') || !existsSync(simulatedFigures())) return get;
  return simulatedFeed({ today: today(), token: DEMO_TOKEN, rowsOf: rowsByDay(simulatedFigures()) });
}

function rowsByDay(file: string): (day: Day) => readonly TrueRow[] {
  const rows = Papa.parse<Record<string, string>>(readFileSync(file, 'utf8'), { header: true }).data;
  const byDay = new Map<number, TrueRow[]>();
  for (const row of rows) {
    const day = parseIsoDay(row.date ?? '');
    if (day === null) continue;
    const list = byDay.get(day) ?? [];
    byDay.set(day, list);
    list.push({
      day,
      page: row.page!,
      device: row.device!,
      clicks: Number(row.clicks),
      impressions: Number(row.impressions),
      position: Number(row.position),
    });
  }
  const last = Math.max(...byDay.keys());
  return (day) => {
    // Days after those that are known repeat the last week.
    const like = day <= last ? day : day - 7 * Math.ceil((day - last) / 7);
    return (byDay.get(like) ?? []).map((row) => ({ ...row, day }));
  };
}
