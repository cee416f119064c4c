import { randomLcg } from 'd3-random';
import type { Measure } from '../../core/measures/registry';
import { NO_EFFECT } from '../calibration/simulate';
import { readBeside, type Outcome } from '../calibration/run';
import { siteOf } from '../calibration/site';
import { score } from '../calibration/score';
import { flightPanel, PANEL_DAYS, type PanelPage } from './flights';

/*
 * Holds the readings against a real panel in which nothing was changed, and prints the table of docs/calibration.md. Airports are
 * taken for changed on days drawn at random, half of them just after they had fallen furthest; the truth is always nought.
 * Arguments: the first seed and how many.
 */

const FIRST_SEED = Number(process.argv[2] ?? 1);
const SEEDS = Number(process.argv[3] ?? 100);
const LENGTHS = { windowDays: 28, settlingDays: 7 };
/** Airports taken for changed at a time, out of all; the others are the yardstick. */
const CHANGES = 16;
/** As for all aims: so many late departures in both spans. */
const FEWEST_COUNTS = 20;
const MEASURES: readonly Measure[] = ['clicks', 'impressions', 'ctr'];
const NAMES: Partial<Record<Measure, string>> = {
  clicks: 'late departures (clicks)',
  impressions: 'departures (impressions)',
  ctr: 'share that is late (CTR)',
};

const sum = (counts: Float64Array, from: number, to: number) => {
  let total = 0;
  for (let i = from; i < to; i++) total += counts[i]!;
  return total;
};

/** The airports and days that are taken for changes by one seed. */
function drawn(panel: readonly PanelPage[], seed: number) {
  const random = randomLcg(((seed * 2654435761) >>> 0) / 2 ** 32);
  for (let i = 0; i < 20; i++) random();
  const { windowDays, settlingDays } = LENGTHS;
  const [first, last] = [2 * windowDays, PANEL_DAYS - windowDays - settlingDays];
  const taken = new Set<number>();
  return Array.from({ length: CHANGES }, (_, i) => {
    const day = first + Math.floor(random() * (last - first));
    const picked = i % 2 === 0 ? ('at random' as const) : ('after a dip' as const);
    const after = day + settlingDays;
    const free = panel.flatMap(({ late }, page) => {
      const fewest = Math.min(sum(late, day - windowDays, day), sum(late, after, after + windowDays));
      return !taken.has(page) && fewest >= FEWEST_COUNTS ? [page] : [];
    });
    const fall = (page: number) => {
      const { late } = panel[page]!;
      return Math.log(
        (sum(late, day - windowDays, day) + 0.5) / (sum(late, day - 2 * windowDays, day - windowDays) + 0.5),
      );
    };
    const page =
      picked === 'at random'
        ? free[Math.floor(random() * free.length)]!
        : free.reduce((a, b) => (fall(b) < fall(a) ? b : a));
    taken.add(page);
    return {
      page,
      day,
      picked,
      kind: 'none' as const,
      truth: NO_EFFECT,
    };
  });
}

const panel = await flightPanel();
const pages = panel.map(({ departures, late }) => ({
  ...{ path: 0, queries: [], clicks: late, impressions: departures },
  // Nothing here has a position.
  ...{ positionSum: new Float64Array(PANEL_DAYS), positionWeight: new Float64Array(PANEL_DAYS) },
}));
const site = siteOf(pages, PANEL_DAYS);
const outcomes: Outcome[] = [];
for (let seed = FIRST_SEED; seed < FIRST_SEED + SEEDS; seed++)
  outcomes.push(...readBeside(site, drawn(panel, seed), LENGTHS));

console.log(
  `${new Date().toISOString().slice(0, 10)}: ${panel.length} airports, ${PANEL_DAYS} days, ${CHANGES * SEEDS} readings of nothing (seeds ${FIRST_SEED} to ${FIRST_SEED + SEEDS - 1}), spans of ${LENGTHS.windowDays} days, ${LENGTHS.settlingDays} settling days\n`,
);
const percent = (value: number) => `${(value * 100).toFixed(1)}%`;
for (const metric of MEASURES) {
  const ours = score(outcomes, metric, (one) => one.ours);
  const naive = score(outcomes, metric, (one) => one.naive);
  console.log(`| ${NAMES[metric] ?? metric} | aim | this program | naive |\n| --- | --- | --- | --- |`);
  const rows: [string, string, (of: typeof ours) => string][] = [
    ['90% intervals that hold nothing', '87 to 95%', (of) => percent(of.held)],
    ['picked at random, called moved', '', (of) => percent(of.falseAtRandom)],
    ['picked after a fall, called moved', '', (of) => percent(of.falseAfterDip)],
    ['root mean square error (log)', '', (of) => of.error.toFixed(3)],
    ['bias after a fall (log)', '', (of) => of.dipBias.toFixed(3).replace('-', '\u2212')],
  ];
  for (const [name, aim, of] of rows) console.log(`| ${name} | ${aim} | ${of(ours)} | ${of(naive)} |`);
  console.log();
}
