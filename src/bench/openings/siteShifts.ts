import { randomLcg, randomNormal, randomPoisson } from 'd3-random';
import { addDays, asDay, type Day } from '../../core/calendar/day';
import { siteShifts } from '../../core/shifts/siteShifts';

/*
 * Steps of a whole site: falls of 10% and 13% put into sites with a weekly rhythm, two seasonal waves, autocorrelated drift, noise and
 * counting; and sites without any. Arguments: the first seed, and the number of sites of each sort.
 */

const [FIRST, SITES] = [Number(process.argv[2] ?? 1), Number(process.argv[3] ?? 20)];
const [DAYS, AT, CLOSE] = [480, 300, 7];
const START = asDay(20_000);
const WEEKDAYS = [1, 1.1, 1.05, 1, 0.95, 0.7, 0.75];

type Sort = {
  readonly clicks: number;
  readonly drift: number;
  readonly noise: number;
  readonly season: number;
};
const SORTS: Readonly<Record<string, Sort>> = {
  quiet: { clicks: 3000, drift: 0.01, noise: 0.01, season: 0.5 },
  usual: { clicks: 1000, drift: 0.03, noise: 0.02, season: 0.5 },
  'steep season': { clicks: 1000, drift: 0.03, noise: 0.02, season: 0.9 },
};

/** Daily clicks of a site, with a fall on a day of so much (0: none). */
function site(seed: number, { clicks, drift, noise, season }: Sort, fall: number, at: number): number[] {
  const source = randomLcg(seed / 0xffffffff);
  const normal = randomNormal.source(source)();
  const [first, second] = [6.28 * source(), 6.28 * source()];
  let own = 0;
  return Array.from({ length: DAYS }, (_, day) => {
    own = 0.9 * own + Math.sqrt(1 - 0.81) * drift * normal();
    const waves =
      season * Math.sin((2 * Math.PI * day) / 365 + first) +
      0.3 * season * Math.sin((4 * Math.PI * day) / 365 + second);
    const log = waves + own + noise * normal() + (day >= at ? Math.log(1 - fall) : 0);
    return randomPoisson.source(source)(clicks * WEEKDAYS[day % 7]! * Math.exp(log))();
  });
}

const near = (day: Day, at: number) => Math.abs(day - START - at) <= CLOSE;
const event = { firstDay: addDays(START, AT - 2), lastDay: addDays(START, AT + 1) };

for (const [name, sort] of Object.entries(SORTS)) {
  let [false_, ten, thirteen, noted, week] = [0, 0, 0, 0, 0];
  for (let seed = FIRST; seed < FIRST + SITES; seed++) {
    const found = (fall: number, at = AT, events: Parameters<typeof siteShifts>[2] = []) =>
      siteShifts(START, site(seed, sort, fall, at), events).some((one) => near(one.day, at) && one.ratio < 1);
    false_ += siteShifts(START, site(seed + SITES, sort, 0, DAYS)).length;
    if (found(0.1)) ten += 1;
    if (found(0.13)) thirteen += 1;
    if (found(0.13, AT, [event])) noted += 1;
    if (found(0.1, DAYS - 7)) week += 1;
  }
  const share = (n: number) => ((100 * n) / SITES).toFixed(0);
  console.log(
    `steps of a ${name} site, ${SITES} sites from seed ${FIRST}: false ones a site ${(false_ / SITES).toFixed(2)}; found of −10% ${share(ten)}, of −13% ${share(thirteen)}, of −13% at a noted update ${share(noted)}, of −10% after a week ${share(week)} in a hundred`,
  );
}
