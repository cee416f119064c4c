import { EditedMeanwhile, mergedEdit } from './formResult';

const base = { name: 'Routine', steps: ['a', 'b'], rule: 'FREQ=DAILY' };

test('what two people change of different fields both stands', () => {
  const now = { ...base, name: 'Renamed meanwhile' };
  expect(mergedEdit({ ...base, rule: 'FREQ=WEEKLY' }, base, now)).toEqual({
    ...{ name: 'Renamed meanwhile', steps: ['a', 'b'], rule: 'FREQ=WEEKLY' },
  });
});

test('what two people change of the same field is told to the later, with both texts', () => {
  const now = { ...base, steps: ['a', 'b', 'theirs'] };
  const mine = { ...base, steps: ['a', 'b', 'mine'] };
  let met: unknown;
  try {
    mergedEdit(mine, base, now);
  } catch (error) {
    met = error;
  }
  expect(met).toBeInstanceOf(EditedMeanwhile);
  expect((met as EditedMeanwhile).meanwhile).toEqual({ fields: ['steps'], now });
  // The same change made twice is no conflict.
  expect(mergedEdit(now, base, now)).toEqual(now);
});
