import fc from 'fast-check';
import { editedFields, fieldsInConflict, fieldsOf } from './edits';

test('an edit names what differs from where it began', () => {
  const base = { title: 'a', note: null as string | null, pages: ['/a'] };
  expect(editedFields(base, { title: 'b', note: null, pages: ['/a'] })).toEqual({ title: 'b' });
  expect(editedFields(base, { ...base, pages: ['/a', '/b'] })).toEqual({ pages: ['/a', '/b'] });
  expect(fieldsOf(base, ['note', 'constructor'])).toEqual({ note: null });
});

test.each<[string, object, object, object, string[]]>([
  ['nobody else edited', { note: 'mine' }, { note: '' }, { note: '' }, []],
  ['somebody edited another field', { note: 'mine' }, { note: '' }, { note: '', title: 'x' }, []],
  ['both edited the same to other things', { note: 'mine' }, { note: '' }, { note: 'theirs' }, ['note']],
  ['both edited the same to the same', { note: 'one' }, { note: '' }, { note: 'one' }, []],
  ['somebody emptied what is edited', { note: 'mine' }, { note: 'was' }, { note: null }, ['note']],
])('%s', (_name, edit, base, now, fields) => {
  expect(fieldsInConflict(edit as never, base as never, now as never)).toEqual(fields);
});

test('what two people typed is never lost in silence: every field of an edit stands, was there already, or is in conflict', () => {
  const thing = fc.record({
    a: fc.constantFrom('', 'x', 'y'),
    b: fc.constantFrom('', 'x', 'y'),
    c: fc.boolean(),
  });
  fc.assert(
    fc.property(thing, thing, thing, (base, mine, theirs) => {
      const edit = editedFields(base, mine);
      const conflicts = fieldsInConflict(edit, fieldsOf(base, Object.keys(edit)), theirs);
      for (const [name, value] of Object.entries(theirs)) {
        const field = name as keyof typeof base;
        const taken = Object.hasOwn(edit, name) && !conflicts.includes(name);
        // Where mine goes over what somebody else has written since, it is the same text, or they wrote nothing.
        if (taken) expect([base[field], edit[field]]).toContain(value);
      }
    }),
  );
});

test('what is no number differs from nothing, so that it is refused and not passed over', () => {
  expect(editedFields<{ weight: number | null }>({ weight: null }, { weight: NaN })).toEqual({ weight: NaN });
});
