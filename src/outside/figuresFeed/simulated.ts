import { Readable } from 'node:stream';
import { addDays, isoDay, parseIsoDay, type Day } from '../../core/calendar/day';
import type { Answer, Get } from '../http/get';

/*
 * A feed as tiresome as a real one: it is two to three days late, revises its newest days, gives its answers in pages,
 * and fails now and then. It is deterministic: the same requests in the same order get the same answers.
 */

/** A row as it will be in the end; the newest days are given with less than that at first. */
export type TrueRow = {
  readonly day: Day;
  readonly page: string;
  readonly device: string;
  readonly clicks: number;
  readonly impressions: number;
  readonly position: number;
};

export type SimulatedFeed = {
  readonly today: Day;
  readonly token: string;
  /** The rows of a day; none for days that are yet to come. */
  readonly rowsOf: (day: Day) => readonly TrueRow[];
};

const ROWS_A_PAGE = 400;
/** Share of a day's figures that is known when it is one, two, three days old. */
const KNOWN = [0, 0, 0.78, 0.93, 0.99] as const;

/** How much of a day is known on another: nothing before it is two days old, all from the fifth day on. */
function known(day: Day, today: Day): number {
  // Every third day comes a day later than the others.
  const age = today - day - (day % 3 === 0 ? 1 : 0);
  return age < 0 ? 0 : (KNOWN[age] ?? 1);
}

/** A stand-in for `get` that answers as this feed would. */
export function simulatedFeed(feed: SimulatedFeed): Get {
  let asked = 0;
  return async (address, { headers }) => {
    asked++;
    const url = new URL(address);
    if (headers?.authorization !== `Bearer ${feed.token}`) return answer(address, 401, 'No.');
    if (asked % 5 === 2) return answer(address, 503, 'Not now.');
    if (asked % 7 === 4) return answer(address, 429, 'Slowly.', { 'retry-after': '1' });
    const from = parseIsoDay(url.searchParams.get('from') ?? '');
    const to = parseIsoDay(url.searchParams.get('to') ?? '');
    const at = Number(url.searchParams.get('after') ?? 0);
    if (from === null || to === null || !Number.isInteger(at)) return answer(address, 400, 'Which days?');
    const rows: string[] = [];
    for (let day = from; day <= to; day = addDays(day, 1)) {
      const share = known(day, feed.today);
      if (share > 0) rows.push(...feed.rowsOf(day).map((row) => line(row, share)));
    }
    const csv = ['date,page,device,clicks,impressions,position', ...rows.slice(at, at + ROWS_A_PAGE)];
    url.searchParams.set('after', String(at + ROWS_A_PAGE));
    const more = at + ROWS_A_PAGE < rows.length;
    return answer(address, 200, csv.join('\n'), more ? { link: `<${url.href}>; rel="next"` } : {});
  };
}

function line({ day, page, device, clicks, impressions, position }: TrueRow, share: number): string {
  const [c, m] = [Math.round(clicks * share), Math.round(impressions * share)];
  return [isoDay(day), page, device, Math.min(c, m), m, m === 0 ? '' : position.toFixed(1)].join(',');
}

function answer(address: string, status: number, body: string, headers: Answer['headers'] = {}): Answer {
  return { status, headers, body: Readable.from([Buffer.from(body)]), address, delimited: true };
}
