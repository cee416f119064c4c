/** @jest-environment jsdom */
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { draw } from '../../../tests/support/component';
import { DropBox } from './DropBox';
import { SortableList } from './SortableList';

function Letters() {
  const [keys, setKeys] = useState(['a', 'b', 'c']);
  return (
    <SortableList keys={keys} nameOf={(key) => key} onOrder={setKeys}>
      {(key) => <span data-testid="item">{key}</span>}
    </SortableList>
  );
}
const order = () => screen.getAllByTestId('item').map((one) => one.textContent);

test('items are moved a place at a time by buttons, and not past the ends', async () => {
  const { user } = draw(<Letters />);
  await user.click(screen.getByRole('button', { name: 'Down: a' }));
  expect(order()).toEqual(['b', 'a', 'c']);
  await user.click(screen.getByRole('button', { name: 'Up: c' }));
  expect(order()).toEqual(['b', 'c', 'a']);
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Up: b' }).disabled).toBe(true);
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Down: a' }).disabled).toBe(true);
});

test('items are moved by the arrow keys on their handles', async () => {
  draw(<Letters />);
  // jsdom draws nothing: each item gets a place of its own here.
  document.querySelectorAll('li').forEach((item, i) => {
    item.getBoundingClientRect = () => new DOMRect(0, 30 * i, 100, 30);
  });
  const handle = screen.getByRole('button', { name: 'Move: a' });
  handle.focus();
  const press = async (code: string) => {
    fireEvent.keyDown(document.activeElement!, { code, key: code });
    await new Promise((resolve) => setTimeout(resolve, 20));
  };
  await press('Space');
  await press('ArrowDown');
  await press('Space');
  expect(order()).toEqual(['b', 'a', 'c']);
});

test('files are taken by choosing and by dropping, and not while it is busy', async () => {
  const taken = jest.fn();
  const box = (disabled: boolean) => (
    <DropBox accept=".csv" label="Figures" multiple disabled={disabled} onFiles={taken}>
      Choose files, or drop them here
    </DropBox>
  );
  const { user, rerender } = draw(box(false));
  const file = new File(['a'], 'a.csv', { type: 'text/csv' });
  await user.upload(screen.getByLabelText('Figures'), file);
  expect(taken).toHaveBeenLastCalledWith([file]);
  const items = [{ kind: 'file', type: file.type, getAsFile: () => file }];
  const dropped = { dataTransfer: { files: [file], items, types: ['Files'] } };
  fireEvent.drop(screen.getByText('Choose files, or drop them here'), dropped);
  await waitFor(() => expect(taken).toHaveBeenCalledTimes(2));
  rerender(box(true));
  expect(screen.getByLabelText<HTMLInputElement>('Figures').disabled).toBe(true);
});
