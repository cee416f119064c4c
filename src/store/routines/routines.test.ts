import { day, TempStore } from '../../../tests/support/tempDb';
import { newRoutineSchema } from '../../core/routines/routine';
import type { Site } from '../../core/model/site';
import { doneOf, findRoutine, keepRoutine, listRoutines, setRoutineDeleted, tickStep } from './routines';

let store: TempStore;
let site: Site;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
});
afterEach(() => store.close());

const given = (over: object = {}) =>
  newRoutineSchema.parse({
    ...{ name: 'Look', steps: [{ text: 'One', link: '/desk' }, { text: 'Two' }] },
    ...{ rule: 'rrule:freq=weekly', firstDay: '2026-01-05', ...over },
  });

test('a routine is kept, edited, ticked off, taken away and put back', async () => {
  const id = await keepRoutine(store.db, site.id, null, given());
  expect(findRoutine(store.db, site.id, id)).toMatchObject({
    rule: 'FREQ=WEEKLY',
    firstDay: day('2026-01-05'),
  });
  await keepRoutine(store.db, site.id, id, given({ name: 'Look again' }));
  expect(listRoutines(store.db, site.id).map(({ name }) => name)).toEqual(['Look again']);
  const step = { dueOn: day('2026-01-12'), step: 1, person: 'IK' };
  await tickStep(store.db, site.id, id, step, true);
  await tickStep(store.db, site.id, id, { ...step, person: 'RT' }, true);
  expect(doneOf(store.db, id)).toMatchObject([{ step: 1, person: 'RT' }]);
  await tickStep(store.db, site.id, id, step, false);
  expect(doneOf(store.db, id)).toEqual([]);
  await setRoutineDeleted(store.db, site.id, id, true);
  expect(listRoutines(store.db, site.id)).toEqual([]);
  await expect(keepRoutine(store.db, site.id, id, given())).rejects.toThrow('no longer there');
  await setRoutineDeleted(store.db, site.id, id, false);
  expect(listRoutines(store.db, site.id)).toHaveLength(1);
});

test('a step that is not there, or a routine of another site, is refused', async () => {
  const id = await keepRoutine(store.db, site.id, null, given());
  const step = { dueOn: day('2026-01-12'), step: 2, person: null };
  await expect(tickStep(store.db, site.id, id, step, true)).rejects.toThrow('no longer there');
  await expect(tickStep(store.db, site.id + 1, id, { ...step, step: 0 }, true)).rejects.toThrow();
  expect(store.rows('routine_done')).toEqual([]);
});
