import { asDay } from '../../core/calendar/day';
import { History } from '../../core/history/history';
import { SiteReader } from '../../core/net/reader';
import { moveSpans, rowMoves } from '../../core/net/moves';
import type { RowNet } from '../../core/net/net';
import { METRICS } from '../../core/model/change';
import { simulateSite } from './simulate';
const [from, to] = [Number(process.argv[2]), Number(process.argv[3])];
const world = { pages: 60, days: 480, changes: 24, windowDays: 28, settlingDays: 7 };
type R = {
  metric: string;
  picked: string;
  kind: string;
  truth: number;
  net: number;
  low: number;
  high: number;
  naive: number;
  nlow: number;
  nhigh: number;
  se: number;
};
const out: R[] = [];
let tsim = 0,
  tread = 0;
const acc: Record<string, number[]> = {};
for (let seed = from; seed < to; seed++) {
  let t = performance.now();
  const site = simulateSite({ ...world, seed });
  tsim += performance.now() - t;
  t = performance.now();
  const covered = Array.from({ length: world.days }, (_, i) => asDay(i));
  const history = new History(
    asDay(0),
    world.days,
    site.pages.map((p, id) => ({ id, firstDay: asDay(0), ...p })),
    covered,
  );
  const groups = { of: site.pages.map((p) => p.group), count: 4 };
  const reader = new SiteReader(
    history,
    groups,
    site.changes.map((c) => ({ day: c.day, pages: [{ id: c.page }] })),
    asDay(world.days - 1),
  );
  const swing = reader.swing(28, 7);
  for (const m of METRICS) {
    const s = swing.metrics[m];
    (acc[m] ??= []).push(s.moments.move, s.moments.dip, s.moments.moveWithDip, s.between, s.reach);
  }
  for (const c of site.changes) {
    const read = reader.read(asDay(c.day), [c.page], 28, 7)!;
    const cmp = rowMoves(history, moveSpans(asDay(c.day), 28, 7), [c.page]);
    for (const metric of METRICS) {
      const n = read.effects[metric] as RowNet;
      if (!n) continue;
      const mv = cmp[metric];
      const v = Math.sqrt(mv.noiseBefore[0]! + mv.noiseAfter[0]!) * 1.645;
      const y = mv.move[0]!;
      out.push({
        metric,
        picked: c.picked,
        kind: c.kind,
        truth: c.truth[metric],
        net: n.net,
        low: n.low,
        high: n.high,
        naive: y,
        nlow: y - v,
        nhigh: y + v,
        se: n.standardError,
      });
    }
  }
  tread += performance.now() - t;
}
console.log('sim ms', (tsim / (to - from)) | 0, 'read ms', (tread / (to - from)) | 0, 'rows', out.length);
const pct = (a: R[], f: (r: R) => boolean) =>
  a.length ? ((100 * a.filter(f).length) / a.length).toFixed(1) : '-';
const rms = (a: R[], f: (r: R) => number) => Math.sqrt(a.reduce((s, r) => s + f(r) ** 2, 0) / a.length);
for (const metric of METRICS) {
  const all = out.filter((r) => r.metric === metric);
  const none = all.filter((r) => r.kind === 'none'),
    real = all.filter((r) => Math.abs(r.truth) > 0.03);
  const A = (a: R[], p: string) => a.filter((r) => r.picked === p);
  const moved = (r: R) => r.low > 0 || r.high < 0,
    nmoved = (r: R) => r.nlow > 0 || r.nhigh < 0;
  const found = (r: R) => (r.truth > 0 ? r.low > 0 : r.high < 0),
    nfound = (r: R) => (r.truth > 0 ? r.nlow > 0 : r.nhigh < 0);
  const wrong = (r: R) => (r.truth > 0 ? r.high < 0 : r.low > 0),
    nwrong = (r: R) => (r.truth > 0 ? r.nhigh < 0 : r.nlow > 0);
  const mean = (a: R[], f: (r: R) => number) => a.reduce((s, r) => s + f(r), 0) / a.length;
  const bias = A(none, 'after a dip');
  const ac = acc[metric]!;
  const av = [0, 1, 2, 3, 4].map((k) =>
    (ac.filter((_, i) => i % 5 === k).reduce((a, b) => a + b, 0) / (ac.length / 5)).toFixed(4),
  );
  console.log(
    metric.padEnd(11),
    `cover ${pct(all, (r) => r.low <= r.truth && r.truth <= r.high)} (naive ${pct(all, (r) => r.nlow <= r.truth && r.truth <= r.nhigh)}) [rand ${pct(A(all, 'at random'), (r) => r.low <= r.truth && r.truth <= r.high)}]`,
    `false ${pct(A(none, 'at random'), moved)}/${pct(A(none, 'after a dip'), moved)} (${pct(A(none, 'at random'), nmoved)}/${pct(A(none, 'after a dip'), nmoved)})`,
    `found ${pct(real, found)} (${pct(real, nfound)}) wrong ${pct(real, wrong)} (${pct(real, nwrong)})`,
    `rmse ${rms(all, (r) => r.net - r.truth).toFixed(3)} / ${rms(all, (r) => r.naive - r.truth).toFixed(3)} = ${(rms(all, (r) => r.net - r.truth) / rms(all, (r) => r.naive - r.truth)).toFixed(3)}`,
    `dip bias ${mean(A(all, 'after a dip'), (r) => r.net - r.truth).toFixed(3)} (${mean(A(all, 'after a dip'), (r) => r.naive - r.truth).toFixed(3)}) rand ${mean(A(all, 'at random'), (r) => r.net - r.truth).toFixed(3)} none-dip ${mean(bias, (r) => r.net - r.truth).toFixed(3)} real-dip ${mean(A(real, 'after a dip'), (r) => r.net - r.truth).toFixed(3)} none-rand ${mean(A(none, 'at random'), (r) => r.net - r.truth).toFixed(3)} real-rand ${mean(A(real, 'at random'), (r) => r.net - r.truth).toFixed(3)} z ${rms(all, (r) => (r.net - r.truth) / r.se).toFixed(2)}`,
    `mom ${av.join(' ')}`,
  );
}
