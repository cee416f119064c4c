import { randomLcg, randomPoisson, randomNormal } from 'd3-random';
import { asDay } from '../core/calendar/day';
import { History, type Series } from '../core/history/history';
import { choosePanel } from '../core/net/panel';
import { SiteReader } from '../core/net/reader';
const P = 2000,
  D = 480;
const rnd = randomLcg(0.5),
  normal = randomNormal.source(rnd)();
const series: Series[] = Array.from({ length: P }, (_, id) => {
  const size = Math.exp(1 + 1.5 * normal());
  const p = randomPoisson.source(rnd)(size),
    q = randomPoisson.source(rnd)(size * 25);
  const clicks = new Int32Array(D),
    impressions = new Int32Array(D),
    positionSum = new Float64Array(D);
  for (let i = 0; i < D; i++) {
    clicks[i] = p();
    impressions[i] = q() + clicks[i]!;
    positionSum[i] = impressions[i]! * 8;
  }
  return { id, firstDay: asDay(0), clicks, impressions, positionSum };
});
const changes = Array.from({ length: 500 }, () => ({
  day: 60 + Math.floor(rnd() * 380),
  pages: [{ id: Math.floor(rnd() * P) }],
}));
const covered = Array.from({ length: D }, (_, i) => asDay(i));
for (let k = 0; k < 4; k++) {
  let t = performance.now();
  const { series: panel, yardstick } = choosePanel(series, new Set(changes.map((c) => c.pages[0]!.id)));
  const history = new History(asDay(0), D, panel, covered);
  const t1 = performance.now() - t;
  t = performance.now();
  const reader = new SiteReader(
    history,
    { of: panel.map((s) => s.id % 6), count: 6 },
    changes,
    asDay(D - 1),
    { yardstick, firstSubject: 0 },
  );
  const sw = reader.swing(28, 7);
  const t2 = performance.now() - t;
  t = performance.now();
  let n = 0;
  for (const c of [...changes].sort((a, b) => a.day - b.day))
    if (reader.read(asDay(c.day), [c.pages[0]!.id], 28, 7)) n++;
  console.log(
    'rows',
    history.rows,
    'build',
    t1 | 0,
    'swing',
    t2 | 0,
    'reads',
    (performance.now() - t) | 0,
    n,
    sw.days.length,
  );
}
