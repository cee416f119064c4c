/** @jest-environment jsdom */
import { screen } from '@testing-library/react';
import { useState } from 'react';
import { draw } from '../../../../tests/support/component';
import { DayField } from './DayField';
import { DayRangeField } from './DayRangeField';

function OneDay({ told }: { told: (value: string) => void }) {
  const [value, setValue] = useState('2026-09-04');
  const put = (next: string) => {
    told(next);
    setValue(next);
  };
  return <DayField aria-label="Day" value={value} onChange={put} max="2026-09-20" />;
}

test('a day reads as in the rest of the product, is typed in any usual form, and what is no day is kept', async () => {
  const told = jest.fn();
  const { user } = draw(<OneDay told={told} />);
  const field = screen.getByLabelText<HTMLInputElement>('Day');
  expect(field.value).toBe('4 Sep 2026');
  for (const [typed, value, shown] of [
    ['2026-09-14', '2026-09-14', '14 Sep 2026'],
    ['5/9/2026', '2026-09-05', '5 Sep 2026'],
    ['yesterday', '2026-11-23', '23 Nov 2026'],
    ['30 Feb 2026', '30 Feb 2026', '30 Feb 2026'],
  ]) {
    await user.clear(field);
    await user.type(field, typed!);
    expect(told).toHaveBeenLastCalledWith(value);
    expect(field.value).toBe(typed);
    await user.tab();
    expect(field.value).toBe(shown);
    // What is no day keeps a form from being sent, and is marked once it is left.
    expect([field.validity.valid, field.ariaInvalid]).toEqual(
      value === '30 Feb 2026' ? [false, 'true'] : [true, 'false'],
    );
  }
});

test('a day is chosen from the calendar by keyboard, within its bounds', async () => {
  const told = jest.fn();
  const { user } = draw(<OneDay told={told} />);
  await user.tab();
  await user.tab();
  await user.keyboard('{Enter}');
  expect(await screen.findByRole('grid', { name: 'September 2026' })).toBeTruthy();
  expect(screen.getByRole<HTMLButtonElement>('button', { name: /21 September 2026/ }).disabled).toBe(true);
  await user.click(screen.getByRole('button', { name: /20 September 2026/ }));
  expect(told.mock.calls).toEqual([['2026-09-20']]);
  expect(screen.queryByRole('grid')).toBeNull();
});

test('a range is typed, or taken by its name, and ends where figures do', async () => {
  const told = jest.fn();
  const { user } = draw(<DayRangeField value={{ from: '2026-02-01', to: '2026-02-28' }} onChange={told} />);
  expect(screen.getByLabelText<HTMLInputElement>('First day').value).toBe('1 Feb 2026');
  const take = async (name: string) => {
    await user.click(screen.getByRole('button', { name: 'Open calendar and ranges' }));
    await user.click(await screen.findByRole('button', { name }));
    return told.mock.lastCall as unknown;
  };
  expect(await take('Last 7 days')).toEqual([{ from: '2026-11-15', to: '2026-11-21' }]);
  expect(await take('A year earlier')).toEqual([{ from: '2025-02-01', to: '2025-02-28' }]);
});
