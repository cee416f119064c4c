/** @jest-environment jsdom */
import { screen } from '@testing-library/react';
import { done, draw, refusedFor } from '../../../tests/support/component';
import { InlineForm } from './InlineForm';

const run = jest.fn((value: string) => done(value.length));
const saved = jest.fn();
beforeEach(() => {
  run.mockClear();
  saved.mockClear();
  localStorage.clear();
});

const field = (name: string) => screen.getByLabelText<HTMLInputElement>(name);

test('what is typed is sent without spaces around it, and the result is passed on', async () => {
  const { user } = draw(<InlineForm label="Name" submit="Keep" run={run} done={saved} />);
  expect(document.activeElement).toBe(field('Name'));
  await user.type(field('Name'), '  Frames {Enter}');
  expect(run).toHaveBeenCalledWith('Frames');
  expect(saved).toHaveBeenCalledWith(6);
});

test('an empty field is refused unless it may be empty, and what the server refuses is said', async () => {
  const { user, unmount } = draw(<InlineForm label="Name" submit="Keep" run={run} done={saved} />);
  await user.click(screen.getByRole('button', { name: 'Keep' }));
  expect((await screen.findByRole('alert')).textContent).toBe('Name: fill this in.');
  expect(field('Name').getAttribute('aria-invalid')).toBe('true');
  run.mockImplementationOnce(() => refusedFor('name', 'There is a filter of that name.') as never);
  await user.type(field('Name'), 'Frames{Enter}');
  expect((await screen.findByRole('alert')).textContent).toBe('There is a filter of that name.');
  expect(field('Name').value).toBe('Frames');
  expect(saved).not.toHaveBeenCalled();
  unmount();
  const empty = draw(<InlineForm label="Reason" optional submit="Decide" run={run} done={saved} />);
  await empty.user.click(screen.getByRole('button', { name: 'Decide' }));
  expect(run).toHaveBeenLastCalledWith('');
  expect(saved).toHaveBeenCalledWith(0);
});

test('a day has to be one, and what follows from it is said', async () => {
  const { user } = draw(
    <InlineForm
      type="day"
      label="Day"
      submit="Save"
      run={run}
      done={saved}
      note={(typed) => `Read from ${typed}.`}
    />,
  );
  await user.type(field('Day'), 'soon{Enter}');
  expect((await screen.findByRole('alert')).textContent).toBe('Give a day, as in 24 Nov 2026.');
  await user.clear(field('Day'));
  await user.type(field('Day'), '24 Nov 2026');
  expect(screen.getByText('Read from 2026-11-24.')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Save' }));
  expect(run).toHaveBeenCalledWith('2026-11-24');
});

test('it is left by its button or by Escape, and then keeps no draft', async () => {
  const left = jest.fn();
  const { user } = draw(
    <InlineForm
      label="Title"
      draft="sighting:3"
      submit="Keep"
      run={run}
      done={saved}
      cancel={{ text: 'Cancel', run: left }}
    />,
  );
  await user.type(field('Title'), 'Bee smokers');
  expect(Object.keys(localStorage).some((key) => key.includes('sighting:3'))).toBe(true);
  await user.keyboard('{Escape}');
  expect(left).toHaveBeenCalledTimes(1);
  expect(Object.keys(localStorage).some((key) => key.includes('sighting:3'))).toBe(false);
  await user.click(screen.getByRole('button', { name: 'Cancel' }));
  expect(left).toHaveBeenCalledTimes(2);
});
