import { newReportSchema } from '@/core/model/report';
import { newChangeSchema } from '@/core/model/change';
import type { Site } from '@/core/model/site';
import { addChange } from '@/store/ledger/changes';
import { addSite } from '@/store/sites';
import { aRound } from '../../../tests/support/round';
import { TempStore } from '../../../tests/support/tempDb';
import { addReport, findReport, saveReport, setReportDeleted } from './reports';

let store: TempStore;
let site: Site;
let other: Site;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
  other = await addSite(store.db, { name: 'Other', address: 'other.quillow-bees.example' });
});
afterEach(() => store.close());

const about = (scope: object) =>
  newReportSchema.parse({ title: 'R', from: '2026-09-01', to: '2026-09-30', scope });
const changeOf = async (of: Site) =>
  (
    await addChange(
      store.db,
      of,
      newChangeSchema.parse({ title: 'T', kind: 'other', day: '2026-09-14', pages: ['/a'] }),
    )
  ).id;

test('a report is about what its own site has', async () => {
  const { db } = store;
  const [own, theirs] = [await changeOf(site), await changeOf(other)];
  const [ownRound, theirRound] = [await aRound(db, site, ['/a']), await aRound(db, other, ['/a'])];
  const id = await addReport(db, site.id, about({ kind: 'changes', changeIds: [own] }));
  await saveReport(db, id, () => about({ kind: 'round', roundId: ownRound }));
  for (const [scope, field] of [
    [{ kind: 'changes', changeIds: [own, theirs] }, 'scope.changeIds.1'],
    [{ kind: 'changes', changeIds: [9999] }, 'scope.changeIds.0'],
    [{ kind: 'round', roundId: theirRound }, 'scope.roundId'],
    [{ kind: 'round', roundId: 9999 }, 'scope.roundId'],
  ] as const) {
    await expect(addReport(db, site.id, about(scope))).rejects.toMatchObject({ field });
    await expect(saveReport(db, id, () => about(scope))).rejects.toMatchObject({ field });
  }
  expect(findReport(db, id)!.scope).toEqual({ kind: 'round', roundId: ownRound });
  await setReportDeleted(db, id, true);
  await expect(saveReport(db, id, () => about({ kind: 'site' }))).rejects.toThrow('deleted meanwhile');
});
