import { newChangeSchema } from '../../core/model/change';
import { newEventSchema } from '../../core/model/event';
import { TempStore } from '../../../tests/support/tempDb';
import { HISTORY_SHOWN } from '../../store/ledger/changeHistory';
import { addChange, editChange } from '../../store/ledger/changes';
import { findChange } from '../../store/ledger/findChanges';
import { addEvent, findStandingEvent, saveEvent } from '../../store/ledger/events';
import { changeHistory, eventHistory, type HistoryPart } from './histories';

let store: TempStore;
beforeEach(() => {
  store = new TempStore();
});
afterEach(() => store.close());

/** All parts of a history, from the last edit to the first. */
function parts(of: (before: number | null) => HistoryPart): HistoryPart[] {
  const found = [of(null)];
  while (found.at(-1)!.earlier !== null) found.push(of(found.at(-1)!.earlier));
  return found;
}

test('every edit of a change can be reached, each once, with what it changed', async () => {
  const site = await store.site();
  const input = { title: 'T', kind: 'other', day: '2026-09-14', pages: ['/a'] };
  const { id } = await addChange(store.db, site, newChangeSchema.parse(input));
  const edits = HISTORY_SHOWN * 2 + 50;
  for (let i = 0; i < edits; i++) {
    const edit = i % 2 === 0 ? { note: `note ${i}` } : { title: `title ${i}` };
    await editChange(store.db, site, id, edit);
  }
  const found = parts((before) => changeHistory(store.db, findChange(store.db, id)!, before));
  expect(found.map((part) => part.edits.length)).toEqual([HISTORY_SHOWN, HISTORY_SHOWN, 50]);
  const all = found.flatMap((part) => part.edits);
  expect(new Set(all.map((edit) => edit.id)).size).toBe(edits);
  expect(all.map(({ fields }) => fields)).toEqual(
    Array.from({ length: edits }, (_, i) => [i % 2 === 0 ? 'what was changed' : 'note']),
  );
});

test('and of an event; a history that ends with a whole part has no earlier one', async () => {
  const site = await store.site();
  const of = (name: string) => newEventSchema.parse({ name, kind: 'other', firstDay: '2026-09-14' });
  const { id } = await addEvent(store.db, site.id, of('first'));
  for (let i = 0; i < HISTORY_SHOWN; i++) await saveEvent(store.db, id, of(`name ${i}`));
  const found = parts((before) => eventHistory(store.db, findStandingEvent(store.db, id)!, before));
  expect(found.map((part) => part.edits.length)).toEqual([HISTORY_SHOWN]);
});
