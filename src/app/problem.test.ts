import { z } from 'zod';
import { AddressError } from '@/core/address/address';
import { newEventSchema } from '@/core/model/event';
import { siteSettingsSchema } from '@/core/model/site';
import { FileTooLarge } from '@/jobs/spool';
import { InputError } from '@/store/inputError';
import { readJson } from './api/v1/request';
import { answering, asProblem, Problem } from './problem';

const post = (body: BodyInit) => new Request('http://127.0.0.1/', { method: 'POST', body });

test.each([
  [new InputError('pages.1', 'No.'), 422, ['pages.1']],
  [new InputError('address', 'Taken.', 409), 409, ['address']],
  [new AddressError('No address.'), 422, ['address']],
  [new FileTooLarge('Too large.'), 413, []],
  [new Problem(404, 'Not there.'), 404, []],
])('%p becomes a problem document', async (error, status, fields) => {
  const response = asProblem(error)!.response();
  expect(response.status).toBe(status);
  expect(response.headers.get('content-type')).toBe('application/problem+json');
  const body = (await response.json()) as { errors?: { field: string }[] };
  expect(body).toMatchObject({
    type: 'about:blank',
    status,
    title: expect.any(String),
    detail: error.message,
  });
  expect((body.errors ?? []).map((e) => e.field)).toEqual(fields);
});

test('of a failed validation each field is named once', () => {
  const error = z.object({ a: z.string().min(3).regex(/^x/), b: z.number() }).safeParse({ a: 'y' }).error;
  expect(asProblem(error)?.errors.map((e) => e.field)).toEqual(['a', 'b']);
});

test('a fault of the program itself gives nothing away', async () => {
  const log = jest.spyOn(console, 'error').mockImplementation(() => {});
  const response = await answering(async () => {
    throw new Error('the password is swordfish');
  })();
  expect(response.status).toBe(500);
  expect(await response.text()).not.toContain('swordfish');
  expect(log).toHaveBeenCalled();
  log.mockRestore();
});

describe('bodies', () => {
  test('JSON is read, other text and too much of it refused', async () => {
    expect(await readJson(post('{"a": 1}'))).toEqual({ a: 1 });
    await expect(readJson(post('{'))).rejects.toMatchObject({ status: 400 });
    await expect(readJson(post(''))).rejects.toMatchObject({ status: 400 });
    await expect(readJson(post(`"${'x'.repeat(3_000_000)}"`))).rejects.toMatchObject({ status: 413 });
  });
});

describe('settings and events', () => {
  const settings = {
    name: 'Bees',
    windowDays: 28,
    settlingDays: 3,
    provisionalDays: 3,
    undoDays: 90,
    ...{ timeZone: 'Europe/Vienna', fallShare: 0.2, fallBeyond: 3 },
    privateHosts: [],
    brandWords: [],
    language: 'en' as const,
    worthOfClick: null,
    worthOfConversion: null,
  };

  test.each([
    [{}, []],
    [{ windowDays: 0 }, ['windowDays']],
    [{ windowDays: 365 }, ['windowDays']],
    [{ windowDays: 7.5 }, ['windowDays']],
    [{ settlingDays: NaN }, ['settlingDays']],
    [{ provisionalDays: 15 }, ['provisionalDays']],
    [{ undoDays: 0 }, ['undoDays']],
    [{ timeZone: 'Nowhere/Town' }, ['timeZone']],
    [{ fallShare: 0, fallBeyond: 11 }, ['fallShare', 'fallBeyond']],
    [{ name: '' }, ['name']],
    [{ privateHosts: ['localhost:8080', '192.168.1.4', '[::1]', 'staging.quillow-bees.example'] }, []],
    [
      { privateHosts: ['fine', 'http://192.168.1.4:8080', 'http://a-host/path', 'ftp://a-host'] },
      ['privateHosts.2', 'privateHosts.3'],
    ],
  ])('settings %p', (over, fields) => {
    const { error } = siteSettingsSchema.safeParse({ ...settings, ...over });
    expect((error?.issues ?? []).map((issue) => issue.path.join('.'))).toEqual(fields);
  });

  test.each([
    [{}, []],
    [{ lastDay: '2026-10-06' }, []],
    [{ lastDay: null }, []],
    [{ lastDay: '2026-10-05' }, ['lastDay']],
    [{ link: 'ftp://x.example' }, ['link']],
    [{ link: '' }, []],
  ])('an event with %p', (over, fields) => {
    const given = { name: 'Clover update', kind: 'algorithm-update', firstDay: '2026-10-06', ...over };
    const { error } = newEventSchema.safeParse(given);
    expect((error?.issues ?? []).map((issue) => issue.path.join('.'))).toEqual(fields);
  });
});

test('a disk that is full, or a database that cannot be written, is said to whoever asked', () => {
  const said = jest.spyOn(console, 'error').mockImplementation(() => {});
  for (const [code, why] of [
    ['SQLITE_FULL', /no room left on the disk.*Nothing of this was saved/],
    ['SQLITE_READONLY_DIRECTORY', /can only be read/],
    ['SQLITE_IOERR_WRITE', /fails to read or write/],
    ['ENOSPC', /no room left on the disk/],
  ] as const) {
    const problem = asProblem(Object.assign(new Error('x'), { code }));
    expect([code, problem?.status, why.test(problem?.message ?? '')]).toEqual([code, 503, true]);
  }
  expect(asProblem(Object.assign(new Error('x'), { code: 'SQLITE_MISUSE' }))).toBeNull();
  said.mockRestore();
});
