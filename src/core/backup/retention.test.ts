import fc from 'fast-check';
import { asDay, parseIsoDay, type Day } from '../calendar/day';
import { dayOfInstant, daysWithoutBackup, keptBackups, USUAL_RETENTION } from './retention';

const day = (iso: string) => parseIsoDay(iso)!;
const daily = (last: Day, count: number) => Array.from({ length: count }, (_, i) => asDay(last - i));

test('a year of daily backups leaves a week of days, the ends of four weeks and of twelve months', () => {
  // 27 November 2026 is a Friday.
  const kept = [...keptBackups(daily(day('2026-11-27'), 500), USUAL_RETENTION)].sort((a, b) => b - a);
  const isoOf = (one: Day) => new Date(one * 86_400_000).toISOString().slice(0, 10);
  expect(kept.map(isoOf)).toEqual([
    ...['2026-11-27', '2026-11-26', '2026-11-25', '2026-11-24', '2026-11-23', '2026-11-22', '2026-11-21'],
    // Sundays end weeks; the 22nd stands among the days already.
    ...['2026-11-15', '2026-11-08', '2026-10-31', '2026-09-30', '2026-08-31', '2026-07-31', '2026-06-30'],
    ...['2026-05-31', '2026-04-30', '2026-03-31', '2026-02-28', '2026-01-31', '2025-12-31'],
  ]);
});

test('whatever there is: the newest stays, no more are kept than asked for, and pruning daily loses nothing that pruning once keeps', () => {
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.integer({ min: 20_000, max: 20_800 }).map(asDay), { minLength: 1 }),
      fc.record({ days: fc.nat(9), weeks: fc.nat(6), months: fc.nat(14) }),
      (days, retention) => {
        const kept = keptBackups(days, retention);
        expect(kept.has(asDay(Math.max(...days)))).toBe(true);
        expect(kept.size).toBeLessThanOrEqual(
          Math.max(1, retention.days + retention.weeks + retention.months),
        );
        for (const one of kept) expect(days).toContain(one);
        const inTurn = [...days]
          .sort((a, b) => a - b)
          .reduce<Day[]>((have, next) => [...keptBackups([...have, next], retention)], []);
        expect(new Set(inTurn)).toEqual(kept);
      },
    ),
  );
});

test('two days without a backup are ordinary, three are not', () => {
  const [since, now] = [day('2026-11-01'), day('2026-11-27')];
  expect(daysWithoutBackup(day('2026-11-25'), since, now)).toBeNull();
  expect(daysWithoutBackup(day('2026-11-24'), since, now)).toBe(3);
  expect(daysWithoutBackup(null, day('2026-11-26'), now)).toBeNull();
  expect(daysWithoutBackup(null, since, now)).toBe(26);
  expect(dayOfInstant('2026-11-27T23:59:59.999Z')).toBe(now);
});
