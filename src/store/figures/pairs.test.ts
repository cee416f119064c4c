import fc from 'fast-check';
import { TempStore, day, HOME } from '../../../tests/support/tempDb';
import { positionCurve } from '../../core/appeal/positionCurve';
import { DEVICES } from '../../core/intake/rowReader';
import { addDays } from '../../core/calendar/day';
import { isoDay } from '../../core/calendar/day';
import { listPages } from '../addresses/pages';
import { queryTexts } from './queryIds';
import { pairFigures } from './pairs';
import { siteSeries } from './series';

const FIRST = day('2026-01-01');
const row = fc.record({
  page: fc.constantFrom('/a/', '/b/'),
  query: fc.constantFrom('wax', 'smoker', 'hive'),
  at: fc.nat(70),
  clicks: fc.nat(2),
  impressions: fc.integer({ min: 2, max: 50 }),
  position: fc.integer({ min: 1, max: 30 }),
});

test('pairs are what adding up the rows one by one gives, layer over layer', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(row, { minLength: 1, maxLength: 40 }), fc.nat(40), async (rows, cut) => {
      const store = new TempStore();
      try {
        const site = await store.site();
        // One file over the other: of the same key the later row stands.
        const written = (part: typeof rows) =>
          [
            'date,page,query,clicks,impressions,position',
            ...part.map((r) =>
              [
                isoDay(addDays(FIRST, r.at)),
                HOME + r.page,
                r.query,
                r.clicks,
                r.impressions,
                r.position,
              ].join(),
            ),
          ].join('\n');
        for (const part of [rows.slice(0, cut), rows.slice(cut)])
          if (part.length > 0) await store.import(site, written(part));
        const now = { firstDay: addDays(FIRST, 40), lastDay: addDays(FIRST, 60) };
        const was = { firstDay: addDays(FIRST, 10), lastDay: addDays(FIRST, 39) };
        const found = pairFigures(
          store.db,
          siteSeries(store.db, site.id),
          { now, was },
          DEVICES.all,
          positionCurve([]),
        );
        const texts = queryTexts(store.db, site.id);
        const paths = new Map(
          listPages(store.db, site.id).map(({ id, address }) => [id, address.slice(HOME.length)]),
        );
        const standing = new Map(rows.map((r) => [`${r.page} ${r.query} ${r.at}`, r]));
        const wanted = new Map<string, number[]>();
        for (const { page, query, at, clicks, impressions, position } of standing.values()) {
          const side = at >= 40 && at <= 60 ? 0 : at >= 10 && at <= 39 ? 3 : null;
          if (side === null) continue;
          const key = `${page} ${query}`;
          const sums = wanted.get(key) ?? [0, 0, 0, 0, 0, 0];
          wanted.set(key, sums);
          sums[side]! += clicks;
          sums[side + 1]! += impressions;
          sums[side + 2]! += position * impressions;
        }
        const got = new Map(
          Array.from({ length: found.rows }, (_, i) => [
            `${paths.get(found.page[i]!)} ${texts.get(found.query[i]!)}`,
            [found.now, found.was].flatMap((side) => [
              side.clicks[i],
              side.impressions[i],
              side.positionSum[i],
            ]),
          ]),
        );
        expect(new Map([...got].sort())).toEqual(new Map([...wanted].sort()));
      } finally {
        store.close();
      }
    }),
    { numRuns: 25 },
  );
});
