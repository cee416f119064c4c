import { z } from 'zod';
import { parseIsoDay } from '../calendar/day';
import { feedJson } from './feedJson';
import { dayJson, jsonFrom, spanJson, toJson } from './json';

const day = (text: string) => parseIsoDay(text)!;

test('days and spans are written YYYY-MM-DD, and read back as they were', () => {
  expect(toJson(dayJson, day('2026-02-28'))).toBe('2026-02-28');
  expect(dayJson.encode('2026-02-28')).toBe(day('2026-02-28'));
  expect(toJson(spanJson, { firstDay: day('2026-01-01'), lastDay: day('2026-01-31') })).toEqual({
    firstDay: '2026-01-01',
    lastDay: '2026-01-31',
  });
});

test('fields that the schema does not name are left out, at every depth', () => {
  const codec = jsonFrom(
    z.object({ a: z.int(), inner: z.object({ b: z.int() }).nullable() }),
    (model: { a: number; secret: string }) => ({ ...model, inner: { b: 1, secret: model.secret } }),
  );
  expect(toJson(codec, { a: 1, secret: 'x' })).toEqual({ a: 1, inner: { b: 1 } });
});

test('a feed says that it has a token, and never which', () => {
  const feed = {
    ...{ id: 1, siteId: 1, name: 'F', address: 'https://f.example/', token: 'secret-token' },
    ...{ daily: true, allowPrivate: false, state: 'idle' as const, pagesFetched: 0 },
    ...{ lastTriedAt: null, lastFetchedAt: null, failure: null },
  };
  expect(toJson(feedJson, feed)).toMatchObject({ name: 'F', hasToken: true });
  expect(JSON.stringify(toJson(feedJson, feed))).not.toContain('secret-token');
  expect(toJson(feedJson, { ...feed, token: null })).toMatchObject({ hasToken: false });
});

test('a value that is not what its schema describes is an error of the program, not of the request', () => {
  const wrong = () => toJson(z.object({ ratio: z.number() }), { ratio: NaN });
  expect(wrong).toThrow(/Not as described.*ratio/s);
  expect(wrong).not.toThrow(z.ZodError);
});
