import { Readable } from 'node:stream';
import type { Get } from '../http/get';
import { sourceAddress, sourceAt } from './source';

const SEARCH = { query: 'wax & honey', language: 'en', country: 'gb', device: 'mobile' };
const answering = (
  status: number,
  body: string,
): { get: Get; asked: { address: string; headers: unknown }[] } => {
  const asked: { address: string; headers: unknown }[] = [];
  return {
    asked,
    get: async (address, { headers }) => {
      asked.push({ address, headers });
      return { status, headers: {}, address, delimited: true, body: Readable.from([Buffer.from(body)]) };
    },
  };
};
const access = { address: 'https://results.example/find?key=1', token: 't', privateHosts: [] };

test('a search goes into the address where it says so, else along as parameters', () => {
  expect(sourceAddress('https://r.example/{q}/{country}.json', SEARCH)).toBe(
    'https://r.example/wax%20%26%20honey/gb.json',
  );
  expect(sourceAddress(access.address, { ...SEARCH, country: '' })).toBe(
    'https://results.example/find?key=1&q=wax+%26+honey&language=en&device=mobile',
  );
});

test('what a source answers is read, and what it says besides is left', async () => {
  const body = JSON.stringify({
    took: 3,
    results: [{ rank: 1, address: 'https://a.example/', title: ' A\nb ', kind: 'shop', extras: ['stars'] }],
    asked: ['What is wax?'],
  });
  const { get, asked } = answering(200, body);
  expect(await sourceAt(get, access)(SEARCH)).toMatchObject({
    results: [{ rank: 1, title: 'A b', kind: 'shop', extras: ['stars'], description: null }],
    ...{ asked: ['What is wax?'], related: [], above: [] },
  });
  expect(asked[0]!.headers).toMatchObject({ authorization: 'Bearer t' });
});

test.each([
  [404, '', 'results.example answered with status 404 and not 200.'],
  [503, '', 'results.example answered with status 503; try again later.'],
  [200, '<html>', 'results.example did not answer with JSON.'],
  [200, '[]', 'results.example answered, but the whole cannot be read'],
  [200, '{"results": []}', 'results.example answered, but results cannot be read: There is no result in it.'],
  [
    200,
    '{"results": [{"rank": 1, "title": "A", "address": "javascript:1"}]}',
    'results.0.address cannot be read',
  ],
])('what is no result page is said in a sentence: %s %s', async (status, body, message) => {
  await expect(sourceAt(answering(status, body).get, access)(SEARCH)).rejects.toThrow(message);
});
