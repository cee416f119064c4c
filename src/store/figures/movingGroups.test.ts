import { TempStore } from '../../../tests/support/tempDb';
import { mostAlike, namedGroups, nameGroup } from './movingGroups';

let store: TempStore;
beforeEach(() => (store = new TempStore()));
afterEach(() => store.close());

test('a group keeps its name while most of its pages stay together, and can be named anew', async () => {
  const { id } = await store.site();
  await nameGroup(store.db, id, [1, 2, 3, 4], 'Spring work');
  await nameGroup(store.db, id, [8, 9], 'Winter');
  const named = () => namedGroups(store.db, id);
  expect(mostAlike(named(), [1, 2, 3, 5])?.name).toBe('Spring work');
  expect(mostAlike(named(), [1, 2, 5, 6])).toBeNull();
  await nameGroup(store.db, id, [1, 2, 3, 5], 'Swarms');
  expect(
    named()
      .map(({ name }) => name)
      .sort(),
  ).toEqual(['Swarms', 'Winter']);
  await nameGroup(store.db, id, [9, 8], '');
  expect(named().map(({ name }) => name)).toEqual(['Swarms']);
});
