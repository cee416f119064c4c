import { getTableColumns } from 'drizzle-orm';
import { change } from '../../store/schema';
import { newChangeSchema } from './change';
import {
  CHANGE_FIELDS,
  fieldLabel,
  historyLabel,
  PLAIN_FIELD_NAMES,
  plainField,
  plainValuesOf,
} from './changeFields';

test('every field that can be given is described, and plain ones have a column of their name', () => {
  const given = Object.keys(newChangeSchema.shape).sort();
  const described = Object.keys(CHANGE_FIELDS).filter((name) => name !== 'steps' && name !== 'decision');
  expect(described.sort()).toEqual(given);
  const columns = Object.keys(getTableColumns(change));
  expect(PLAIN_FIELD_NAMES.filter((name) => !columns.includes(name))).toEqual([]);
});

test('a stored value is answered as its description says', () => {
  const stored = plainValuesOf(
    newChangeSchema.parse({ title: 'Hive', kind: 'Title rewrite', day: '2026-01-01', pages: ['/a/'] }),
  );
  expect(stored).toMatchObject({ title: 'Hive', kind: 'title-rewrite', note: null, windowDays: null });
  for (const name of PLAIN_FIELD_NAMES) expect(plainField(name).json.parse(stored[name])).toBe(stored[name]);
});

test('headings of a sheet belong to one field each, and are written as they are compared', () => {
  const headings = PLAIN_FIELD_NAMES.flatMap((name) => plainField(name).sheet?.headings ?? []);
  expect(new Set(headings).size).toBe(headings.length);
  expect(headings.filter((one) => !/^[a-z0-9]+$/.test(one))).toEqual([]);
});

test('a field has one name in the form and one in its history', () => {
  expect(fieldLabel('link')).toBe('Ticket or other link');
  expect(historyLabel('link')).toBe('link');
  expect(historyLabel('settlingDays')).toBe('settling days');
});

test('a record from before a field was there lacks it', () => {
  expect(plainValuesOf({ title: 'Hive', kind: 'other' }).note).toBeNull();
});
