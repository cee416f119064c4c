/** @jest-environment jsdom */
import { screen } from '@testing-library/react';
import { z } from 'zod';
import { done, draw, refusedFor } from '../../../tests/support/component';
import { EntityForm } from './EntityForm';
import { Field } from './Field';
import type { FormResult } from './formResult';
import { useEntityForm } from './useEntityForm';

type Typed = { name: string; amount: string };
type Sent = { name: string; expectation: { amount: number | null } };

const schema = z.object({
  name: z.string().min(1, 'The name is missing.'),
  expectation: z.object({ amount: z.number('The amount is a number.').nullable() }),
});
const codec = {
  toSent: ({ name, amount }: Typed): Sent => ({
    ...{ name, expectation: { amount: amount === '' ? null : Number(amount) } },
  }),
  toTyped: ({ name, expectation: { amount } }: Sent): Typed => ({ name, amount: String(amount ?? '') }),
  fieldOf: (field: string) => field.split('.').at(-1)!,
};
const send = jest.fn<Promise<FormResult<number>>, [Partial<Sent>, Partial<Sent>]>();
const told = jest.fn();

function Example({ initial, editing }: { initial: Typed; editing: boolean }) {
  const form = useEntityForm<Typed, Sent, number>({
    ...{ what: 'example:1', initial, codec, schema, editing, done: told },
    send: (edit, base) => send(edit, base),
  });
  return (
    <EntityForm form={form} draftName={({ name }) => name} buttons={<button type="submit">Save</button>}>
      <Field label="Name" error={form.errorOf('name')}>
        {(c) => <input {...c} {...form.register('name')} />}
      </Field>
      <Field label="Amount" error={form.errorOf('amount')}>
        {(c) => <input {...c} {...form.register('amount')} />}
      </Field>
    </EntityForm>
  );
}
const field = (label: string) => screen.getByLabelText<HTMLInputElement>(label);
const save = () => screen.getByRole('button', { name: 'Save' });
beforeEach(() => {
  localStorage.clear();
  sessionStorage.clear();
  jest.resetAllMocks();
  send.mockImplementation(() => done(7));
});

test('the first field that is wrong gets the focus, and the complaint about what is sent stands where it is typed', async () => {
  const { user } = draw(<Example initial={{ name: 'A', amount: '' }} editing={false} />);
  await user.type(field('Amount'), 'much');
  await user.click(save());
  expect(await screen.findByText('The amount is a number.')).toBeTruthy();
  expect(document.activeElement).toBe(field('Amount'));
  await user.clear(field('Name'));
  await user.click(save());
  expect(await screen.findByText('The name is missing.')).toBeTruthy();
  expect(document.activeElement).toBe(field('Name'));
  expect(send).not.toHaveBeenCalled();
});

test('of something that is there only what was changed is sent, and nothing where nothing was', async () => {
  const { user } = draw(<Example initial={{ name: 'A', amount: '3' }} editing />);
  await user.click(save());
  expect(told.mock.calls).toEqual([[null, { name: 'A', amount: '3' }]]);
  await user.type(field('Amount'), '5');
  await user.click(save());
  expect(send.mock.calls).toEqual([[{ expectation: { amount: 35 } }, { expectation: { amount: 3 } }]]);
  expect(told).toHaveBeenLastCalledWith(7, { name: 'A', amount: '35' });
});

test('a save that fails says so, keeps what was typed, and is tried again', async () => {
  send.mockImplementationOnce(() => refusedFor('expectation.amount', 'Too much.'));
  send.mockImplementationOnce(() => Promise.reject(new Error('offline')));
  const { user, unmount } = draw(<Example initial={{ name: '', amount: '' }} editing={false} />);
  await user.type(field('Name'), 'Autumn');
  await user.type(field('Amount'), '9');
  await user.click(save());
  expect(await screen.findByText('Too much.')).toBeTruthy();
  await user.click(save());
  expect((await screen.findByRole('alert')).textContent).toContain('The server did not answer');
  expect([field('Name').value, field('Amount').value]).toEqual(['Autumn', '9']);
  unmount();
  draw(<Example initial={{ name: '', amount: '' }} editing={false} />);
  expect(field('Name').value).toBe('Autumn');
  await user.click(save());
  expect(told).toHaveBeenCalledWith(7, { name: 'Autumn', amount: '9' });
});
