import { ALONE, may, mayInGeneral, NOBODY, refusedBecause, RIGHTS, roleOn, type Principal } from './rights';

const person = (roles: [number, 'reader' | 'editor' | 'owner'][], administrator = false): Principal => ({
  kind: 'person',
  ...{ id: 'p', name: 'MK', email: 'mk@quillow-bees.example', administrator, sessionId: 's' },
  roles: new Map(roles),
});
const token = (right: 'read' | 'log' | 'all'): Principal => ({
  ...{ kind: 'token', id: 1, name: 'release', siteId: 1 },
  right,
});
const granted = (asker: Principal, siteId = 1) =>
  RIGHTS.filter((right) => may(asker, right, siteId)).join(' ');

test('each role and each token has the rights that it is for, on its site and on no other', () => {
  expect(granted(ALONE)).toBe('read log edit own');
  expect(granted(NOBODY)).toBe('');
  expect(granted(person([[1, 'reader']]))).toBe('read');
  expect(granted(person([[1, 'editor']]))).toBe('read log edit');
  expect(granted(person([[1, 'owner']]))).toBe('read log edit own');
  expect(granted(person([[2, 'owner']]))).toBe('');
  expect(granted(person([], true), 99)).toBe('read log edit own');
  expect([granted(token('read')), granted(token('log')), granted(token('all'))]).toEqual([
    'read',
    'read log',
    'read log edit own',
  ]);
  expect(granted(token('all'), 2)).toBe('');
});

test('what is about no site', () => {
  const asks = [ALONE, NOBODY, person([[1, 'owner']]), person([], true), token('all')];
  expect(asks.map((asker) => mayInGeneral(asker, 'anybody'))).toEqual([true, true, true, true, true]);
  expect(asks.map((asker) => mayInGeneral(asker, 'known'))).toEqual([true, false, true, true, true]);
  expect(asks.map((asker) => mayInGeneral(asker, 'administer'))).toEqual([true, false, false, true, false]);
});

test('roles, and the sentence for what may not be done', () => {
  expect([roleOn(ALONE, 1), roleOn(NOBODY, 1), roleOn(token('all'), 1)]).toEqual(['owner', null, null]);
  expect(refusedBecause(token('log'), 'edit')).toBe('The token “release” may read and log, and not more.');
  expect(refusedBecause(person([[1, 'reader']]), 'edit')).toMatch(/You may read this site/);
  expect(refusedBecause(person([[1, 'editor']]), 'own')).toBe('Only an owner of this site may do this.');
});
