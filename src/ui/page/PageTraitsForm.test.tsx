/** @jest-environment jsdom */
import { screen, within } from '@testing-library/react';
import type { PageTraits } from '@/core/model/traits';
import { done, draw, metBy } from '../../../tests/support/component';
import type { FormResult } from '../kit/formResult';
import { PageTraitsForm } from './PageTraitsForm';

const SAVED: PageTraits = { target: 'raw honey', weight: null, sink: false };
type Asked = [siteId: number, pageId: number, traits: PageTraits, base: PageTraits];
const save = jest.fn<Promise<FormResult<null>>, Asked>();
beforeEach(() => save.mockReset().mockImplementation(() => done(null)));

const drawn = (...rights: Parameters<typeof draw>[1][]) =>
  draw(<PageTraitsForm siteId={1} pageId={5} traits={SAVED} save={save} />, ...rights);
const keep = () => screen.getByRole('button', { name: 'Keep' });
const weight = () => screen.getByLabelText<HTMLInputElement>('weight, 1 is as usual');

test('a weight may have a decimal comma, and what was kept can be undone', async () => {
  const { user } = drawn();
  await user.type(weight(), '2,5');
  await user.click(keep());
  const kept = { ...SAVED, weight: 2.5 };
  expect(save.mock.calls).toEqual([[1, 5, kept, SAVED]]);
  await user.click(await screen.findByRole('button', { name: 'Undo' }));
  expect(save).toHaveBeenLastCalledWith(1, 5, SAVED, kept);
});

test('a weight that is no number is said before anything is sent', async () => {
  const { user } = drawn();
  await user.type(weight(), 'twice');
  await user.click(keep());
  expect((await screen.findByRole('alert')).textContent).toContain('The weight is a number');
  expect(save).not.toHaveBeenCalled();
});

test('what somebody else wrote is there to choose', async () => {
  save.mockImplementationOnce(() => metBy(['target', 'sink'], { target: 'honey', weight: 3, sink: true }));
  const { user } = drawn();
  await user.type(screen.getByLabelText('target query'), ' jars');
  await user.click(keep());
  const target = await screen.findByRole('group', { name: 'target query' });
  await user.click(within(target).getByRole('radio', { name: /yours/ }));
  await user.click(
    within(screen.getByRole('group', { name: 'meant to sink' })).getByRole('radio', { name: /theirs/ }),
  );
  await user.click(keep());
  // The weight is theirs alone: it was not touched here, so it stays what it is there.
  expect(save).toHaveBeenLastCalledWith(...[1, 5, { target: 'raw honey jars', weight: null, sink: true }], {
    target: 'honey',
    weight: null,
    sink: true,
  });
});

test('who may only read sees what is said and changes nothing', () => {
  drawn(['read']);
  expect(screen.getByLabelText<HTMLInputElement>('target query').matches(':disabled')).toBe(true);
  expect(screen.queryByRole('button', { name: 'Keep' })).toBeNull();
});
