import { randomGamma, randomLcg, randomNormal, randomPoisson } from 'd3-random';
import type { Day } from '../../core/calendar/day';
import { expectedOfOthers, levelShifts, usualWander, type NetDays } from '../../core/shifts/levelShifts';

/*
 * Level shifts of 30%, up and down, put into pages of 20 clicks a day and more, on sites that have a weekly rhythm, a season, drift of the
 * site and of every page, and over-dispersed counts; and sites without any. Arguments: the first seed, and the number of sites of each sort.
 */

const [FIRST, SITES] = [Number(process.argv[2] ?? 1), Number(process.argv[3] ?? 20)];
const [PAGES, DAYS, CLOSE] = [40, 480, 5];
/** Of a day of a page: as of a handful of searches, each as over-dispersed as in the benchmark of readings. */
const OVERDISPERSED = 60;

function site(seed: number, shifted: boolean) {
  const source = randomLcg(seed / 0xffffffff);
  const normal = randomNormal.source(source)();
  const gamma = randomGamma.source(source);
  let drift = 0;
  const common = Array.from({ length: DAYS }, (_, day) => {
    drift = 0.995 * drift + 0.012 * normal();
    return (
      Math.exp(drift + 0.3 * Math.sin((2 * Math.PI * day) / 365)) * [1.2, 1.1, 1, 1, 0.9, 0.7, 0.8][day % 7]!
    );
  });
  const truth: ({ day: number; up: boolean } | null)[] = [];
  const clicks = Array.from({ length: PAGES }, (_, page) => {
    const mean = 20 * Math.exp(0.8 * Math.abs(normal()));
    const has = shifted && page % 4 === 0;
    const at = 60 + Math.floor((DAYS - 120) * source());
    const up = source() < 0.5;
    truth.push(has ? { day: at, up } : null);
    let own = 0;
    return Float64Array.from({ length: DAYS }, (_, day) => {
      own = 0.97 * own + 0.015 * normal();
      const level = mean * common[day]! * Math.exp(own) * (has && day >= at ? (up ? 1.3 : 0.7) : 1);
      return randomPoisson.source(source)(level * gamma(OVERDISPERSED, 1 / OVERDISPERSED)())();
    });
  });
  return { clicks, truth };
}

let [there, foundClose, foundAny, held, false_] = [0, 0, 0, 0, 0];
for (let seed = FIRST; seed < FIRST + SITES; seed++)
  for (const shifted of [true, false]) {
    const { clicks, truth } = site(seed, shifted);
    const expected = expectedOfOthers(clicks);
    const rows = clicks.map((row, i): NetDays => ({
      firstDay: 0 as Day,
      clicks: row,
      expected: expected[i]!,
    }));
    const wander = usualWander(rows);
    rows.forEach((row, i) => {
      const found = levelShifts(row, wander);
      if (!shifted) false_ += found.length;
      const real = truth[i];
      if (!real) return;
      there += 1;
      const near = found.filter(({ ratio }) => ratio > 1 === real.up);
      if (near.some(({ day }) => Math.abs(day - real.day) <= CLOSE)) foundClose += 1;
      if (near.some(({ day }) => Math.abs(day - real.day) <= 28)) foundAny += 1;
      if (near.some(({ firstDay, lastDay }) => real.day >= firstDay && real.day <= lastDay)) held += 1;
    });
  }
const years = (SITES * PAGES * DAYS) / 365;
console.log(
  `level shifts of 30%: ${there} on ${SITES} sites, seeds ${FIRST} to ${FIRST + SITES - 1}; within ${CLOSE} days found ${((100 * foundClose) / there).toFixed(1)}, within four weeks ${((100 * foundAny) / there).toFixed(1)}, their days held by the range ${((100 * held) / there).toFixed(1)} in a hundred`,
);
console.log(
  `sites without any: ${false_} false in ${years.toFixed(0)} page-years, one in ${(years / Math.max(1, false_)).toFixed(0)}`,
);
