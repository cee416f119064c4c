/** @jest-environment jsdom */
import { screen, within } from '@testing-library/react';
import { draw } from '../../../../tests/support/component';
import { saveCsv } from '../saveCsv';
import { FiguresTable, type Column } from './FiguresTable';

jest.mock('../saveCsv', () => ({ saveCsv: jest.fn() }));

type Hive = { name: string; clicks: number; position: number | null; refused?: string };

const HIVES: readonly Hive[] = [
  { name: 'Smoker', clicks: 40, position: 8.2 },
  { name: 'Frames', clicks: 120, position: null },
  { name: 'Feeder', clicks: 75, position: 2.4 },
];

const COLUMNS: readonly Column<Hive>[] = [
  { id: 'name', value: ({ name }) => name },
  { id: 'clicks', value: ({ clicks }) => clicks, cell: ({ clicks }) => <b>{clicks} clicks</b> },
  { id: 'position', lowFirst: true, value: ({ position }) => position },
  { id: 'doubled', hidden: true, value: ({ clicks }) => clicks * 2 },
  { id: 'act', hideHead: true, cell: ({ name }) => <button type="button">Open {name}</button> },
];

const table = (more: Partial<Parameters<typeof FiguresTable<Hive>>[0]> = {}) => (
  <FiguresTable label="Hives" columns={COLUMNS} rows={HIVES} rowKey={({ name }) => name} {...more} />
);
const names = () => screen.getAllByRole('rowheader').map(({ textContent }) => textContent);
const heads = () => screen.getAllByRole('columnheader').map(({ textContent }) => textContent);

beforeEach(() => localStorage.clear());

test('a column sorts the best first, absent values last, and says how it is sorted', async () => {
  const { user } = draw(table());
  expect(names()).toEqual(['Smoker', 'Frames', 'Feeder']);
  await user.click(screen.getByRole('button', { name: 'clicks' }));
  expect(names()).toEqual(['Frames', 'Feeder', 'Smoker']);
  expect(screen.getByRole('columnheader', { name: 'clicks' }).getAttribute('aria-sort')).toBe('descending');
  await user.click(screen.getByRole('button', { name: 'position' }));
  expect(names()).toEqual(['Feeder', 'Smoker', 'Frames']);
  await user.click(screen.getByRole('button', { name: 'position' }));
  expect(names()).toEqual(['Smoker', 'Feeder', 'Frames']);
  expect(screen.queryByRole('button', { name: 'act' })).toBeNull();
});

test('an order that somebody else keeps is asked for, and not taken by itself', async () => {
  const onSort = jest.fn();
  const { user } = draw(table({ sort: { id: 'clicks', desc: true }, onSort }));
  await user.click(screen.getByRole('button', { name: 'clicks' }));
  expect(onSort).toHaveBeenCalledWith({ id: 'clicks', desc: false });
  expect(names()).toEqual(['Frames', 'Feeder', 'Smoker']);
});

test('all columns with a value are saved in the order of the rows, hidden ones too', async () => {
  const { user } = draw(table({ csv: 'hives.csv' }));
  await user.click(screen.getByRole('button', { name: 'name' }));
  await user.click(screen.getByRole('button', { name: 'Save as CSV' }));
  expect(saveCsv).toHaveBeenCalledWith('hives.csv', [
    { name: 'Feeder', clicks: 75, position: 2.4, doubled: 150 },
    { name: 'Frames', clicks: 120, position: null, doubled: 240 },
    { name: 'Smoker', clicks: 40, position: 8.2, doubled: 80 },
  ]);
});

test('columns are chosen and ordered, the choice is kept, and a reset forgets it', async () => {
  const { user, unmount } = draw(table({ choose: 'hives' }));
  expect(heads()).toEqual(['name', 'clicks', 'position', 'act']);
  await user.click(screen.getByRole('button', { name: 'Columns' }));
  await user.click(await screen.findByRole('checkbox', { name: 'doubled' }));
  await user.click(screen.getByRole('checkbox', { name: 'clicks' }));
  await user.click(screen.getByRole('button', { name: 'Up: doubled' }));
  expect(heads()).toEqual(['name', 'doubled', 'position', 'act']);
  unmount();
  const again = draw(table({ choose: 'hives' }));
  expect(heads()).toEqual(['name', 'doubled', 'position', 'act']);
  await again.user.click(screen.getByRole('button', { name: 'Columns' }));
  await again.user.click(await screen.findByRole('button', { name: 'Reset' }));
  expect(heads()).toEqual(['name', 'clicks', 'position', 'act']);
});

test('what is stored and is no choice of columns changes nothing', () => {
  localStorage.setItem('tally:columns:hives', '{"order": 3}');
  draw(table({ choose: 'hives' }));
  expect(heads()).toEqual(['name', 'clicks', 'position', 'act']);
});

test('a row can say one thing across its columns, and the first rows stand for all until asked', async () => {
  const { user } = draw(
    table({
      first: 2,
      wide: ({ name }) => (name === 'Frames' ? 'No clicks were read.' : null),
    }),
  );
  const [, frames] = within(screen.getByRole('table')).getAllByRole('row').slice(1);
  expect(within(frames!).getByText('No clicks were read.').getAttribute('colspan')).toBe('3');
  expect(names()).toHaveLength(2);
  await user.click(screen.getByRole('button', { name: 'Show all 3 rows' }));
  expect(names()).toEqual(['Smoker', 'Frames', 'Feeder']);
});
