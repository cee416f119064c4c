import fc from 'fast-check';
import { argmaxCdf, changePoints } from './partition';

/** R's `Nile`: annual flow 1871 to 1970 (datasets). */
const NILE = [
  1120, 1160, 963, 1210, 1160, 1160, 813, 1230, 1370, 1140, 995, 935, 1110, 994, 1020, 960, 1180, 799, 958,
  1140, 1100, 1210, 1150, 1250, 1260, 1220, 1030, 1100, 774, 840, 874, 694, 940, 833, 701, 916, 692, 1020,
  1050, 969, 831, 726, 456, 824, 702, 1120, 1100, 832, 764, 821, 768, 845, 864, 862, 698, 845, 744, 796, 1040,
  759, 781, 865, 845, 944, 984, 897, 822, 1010, 771, 676, 649, 846, 812, 742, 801, 1040, 860, 874, 848, 890,
  744, 749, 838, 1050, 918, 986, 797, 923, 975, 815, 1020, 906, 901, 1170, 912, 746, 919, 718, 714, 740,
];

test('the Nile shifted after 1898, somewhere from 1895 to 1902, as strucchange has it', () => {
  // Variance within both stretches, as from R: with(…, var) of the residuals about two means.
  const mean = (values: number[]) => values.reduce((a, b) => a + b, 0) / values.length;
  const [a, b] = [NILE.slice(0, 28), NILE.slice(28)];
  const variance =
    [...a.map((v) => v - mean(a)), ...b.map((v) => v - mean(b))].reduce((s, r) => s + r * r, 0) / NILE.length;
  const [found, ...others] = changePoints(
    { values: NILE, weights: NILE.map(() => 1 / variance) },
    3 * Math.log(NILE.length),
    10,
  );
  expect(others).toEqual([]);
  expect(1871 + found!.at - 1).toBe(1898);
  expect(found!.before).toBeCloseTo(1097.75, 2);
  expect(found!.after).toBeCloseTo(849.97, 2);
  expect([1871 + found!.first - 1, 1871 + found!.last - 1]).toEqual([1895, 1902]);
});

test('no partition at all would cost less', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: -5, max: 5 }), { minLength: 2, maxLength: 9 }),
      fc.integer({ min: 1, max: 3 }),
      fc.integer({ min: 1, max: 20 }),
      (values, least, penalty) => {
        if (values.length < least) return;
        const cost = (from: number, to: number) => {
          const part = values.slice(from, to);
          const mean = part.reduce((a, b) => a + b, 0) / part.length;
          return part.reduce((sum, v) => sum + (v - mean) ** 2, 0);
        };
        const total = (ends: number[]) =>
          ends.reduce((sum, to, i) => sum + cost(ends[i - 1] ?? 0, to), 0) + penalty * (ends.length - 1);
        let best = Infinity;
        const n = values.length;
        for (let mask = 0; mask < 1 << (n - 1); mask++) {
          const ends = [
            ...Array.from({ length: n - 1 }, (_, i) => i + 1).filter((i) => mask & (1 << (i - 1))),
            n,
          ];
          if (ends.every((to, i) => to - (ends[i - 1] ?? 0) >= least)) best = Math.min(best, total(ends));
        }
        const found = changePoints({ values, weights: values.map(() => 1) }, penalty, least);
        expect(total([...found.map(({ at }) => at), n])).toBeCloseTo(best, 6);
      },
    ),
  );
});

test('where the change point lies is distributed as published', () => {
  expect(argmaxCdf(11.03)).toBeCloseTo(0.975, 3);
  expect(argmaxCdf(7.69)).toBeCloseTo(0.95, 3);
});
