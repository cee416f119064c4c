/** @jest-environment jsdom */
import { screen, within } from '@testing-library/react';
import { done, draw, metBy } from '../../../tests/support/component';
import { RoutineFields, RoutineForm, type KeepRoutine } from './RoutineForm';

jest.mock('next/navigation', () => ({ useRouter: () => ({ refresh: () => undefined }) }));

const SAVED = {
  ...{ name: 'Monthly look', rule: 'FREQ=MONTHLY;BYDAY=1MO', firstDay: '2026-11-02' },
  steps: [
    { text: 'See what is due', link: '/desk' },
    { text: 'Write to the client', link: null },
  ],
};
const keep = jest.fn<ReturnType<KeepRoutine>, Parameters<KeepRoutine>>();
beforeEach(() => {
  localStorage.clear();
  sessionStorage.clear();
  keep.mockReset().mockImplementation(() => done(3));
});

const edited = () =>
  draw(<RoutineFields siteId={1} id={3} initial={SAVED} keep={keep} kept={() => undefined} />);
const steps = () => screen.getAllByLabelText<HTMLInputElement>(/^Step \d/).map(({ value }) => value);
const step = (n: number) => screen.getByLabelText(`Step ${n}`);
const save = () => screen.getByRole('button', { name: 'Keep the routine' });

test('steps are typed, moved, removed and pasted, and sent with what they were', async () => {
  const { user } = edited();
  expect(steps()).toEqual(['See what is due', 'Write to the client']);
  expect(screen.getByLabelText<HTMLInputElement>('View of step 1').value).toBe('/desk');
  await user.click(screen.getByRole('button', { name: 'Add a step' }));
  await user.type(step(3), 'Look at losers');
  await user.type(screen.getByLabelText('View of step 3'), '/scorebook');
  await user.click(screen.getByRole('button', { name: 'Up: step 3' }));
  expect(steps()).toEqual(['See what is due', 'Look at losers', 'Write to the client']);
  await user.click(screen.getByRole('button', { name: 'Remove: step 3' }));
  await user.click(screen.getByRole('button', { name: 'Add a step' }));
  await user.click(step(3));
  await user.paste('Tell the others\n\n File it ');
  await user.click(save());
  const given = {
    ...SAVED,
    steps: [
      SAVED.steps[0],
      { text: 'Look at losers', link: '/scorebook' },
      { text: 'Tell the others', link: null },
      { text: 'File it', link: null },
    ],
  };
  expect(keep.mock.calls).toEqual([[1, 3, given, SAVED]]);
});

test('of two versions of the steps one is chosen', async () => {
  const theirs = { ...SAVED, steps: [{ text: 'Only this', link: null }] };
  keep.mockImplementationOnce(() => metBy(['steps'], theirs));
  const { user } = edited();
  await user.type(step(2), ' today');
  await user.click(save());
  const choice = await screen.findByRole('group', { name: 'Steps' });
  expect(choice.textContent).toContain('Write to the client today');
  await user.click(within(choice).getByRole('radio', { name: /theirs/ }));
  expect(steps()).toEqual(['Only this']);
  await user.click(save());
  // Theirs stands already: nothing is left to save.
  expect(keep).toHaveBeenCalledTimes(1);
  expect(screen.queryByRole('group', { name: 'Steps' })).toBeNull();
});

test('a new one begins from nothing, or from one that comes ready', async () => {
  const ready = [{ name: 'Weekly', rule: 'FREQ=WEEKLY', steps: [{ text: 'Look', link: null }] }];
  const { user } = draw(<RoutineForm siteId={1} today="2026-11-24" ready={ready} keep={keep} />);
  expect(screen.queryByRole('group', { name: 'Steps of the routine' })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Weekly' }));
  await user.click(save());
  expect(keep.mock.calls).toEqual([[1, null, { ...ready[0], firstDay: '2026-11-24' }, null]]);
});

test('who may only read is offered none', () => {
  draw(<RoutineForm siteId={1} today="2026-11-24" ready={[]} keep={keep} />, ['read']);
  expect(screen.queryByText('Another routine')).toBeNull();
});
