/** @jest-environment jsdom */
import { screen } from '@testing-library/react';
import { useState } from 'react';
import { done, draw, metBy } from '../../../tests/support/component';
import type { FormResult } from '../kit/formResult';
import { EditConflictChoice } from '../kit/EditConflictChoice';
import { useConflict } from '../kit/useConflict';

type Values = { name: string; note: string };
const SAVED: Values = { name: 'Hives', note: '' };

let send: jest.Mock<Promise<FormResult<null>>, [values: Values, base: Values]>;
beforeEach(() => {
  send = jest.fn<Promise<FormResult<null>>, [Values, Values]>(() => done(null));
});

function Form() {
  const [values, setValues] = useState(SAVED);
  const [said, setSaid] = useState('');
  const set = (edit: Partial<Values>) => setValues((now) => ({ ...now, ...edit }));
  const conflict = useConflict<Values>({
    initial: SAVED,
    set,
    inWords: (field, of) => ({ name: field, text: of[field as keyof Values] }),
  });
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void conflict
          .save(values, send)
          .then((result) => setSaid(result.ok ? 'saved' : result.errors[0]!.message));
      }}
    >
      <input aria-label="Name" value={values.name} onChange={(e) => set({ name: e.target.value })} />
      <input aria-label="Note" value={values.note} onChange={(e) => set({ note: e.target.value })} />
      <EditConflictChoice meanwhile={conflict.meanwhile} onChoose={conflict.choose} />
      <button>Save</button>
      <p>{said}</p>
    </form>
  );
}

const save = () => screen.getByRole('button', { name: 'Save' });
const field = (name: string) => screen.getByLabelText<HTMLInputElement>(name);

async function drawn() {
  const { user } = draw(<Form />);
  return {
    user,
    type: async (name: string, text: string) => {
      await user.clear(field(name));
      await user.type(field(name), text);
    },
  };
}

test('an edit is sent with what it began from, and the next one with what was saved', async () => {
  const { user, type } = await drawn();
  await type('Name', 'Hives and frames');
  await user.click(save());
  expect(await screen.findByText('saved')).toBeTruthy();
  expect(send).toHaveBeenLastCalledWith({ name: 'Hives and frames', note: '' }, SAVED);
  await type('Note', 'new');
  await user.click(save());
  expect(send).toHaveBeenLastCalledWith(
    { name: 'Hives and frames', note: 'new' },
    { name: 'Hives and frames', note: '' },
  );
  expect(screen.queryByRole('group')).toBeNull();
});

test('both versions are shown, and nothing is sent before one is chosen', async () => {
  const { user, type } = await drawn();
  const theirs = { name: 'Their hives', note: '' };
  send.mockImplementationOnce(() => metBy(['name'], theirs));
  await type('Name', 'My hives');
  await user.click(save());
  const choice = await screen.findByRole('group', { name: 'name' });
  expect(choice.textContent).toContain('My hives');
  expect(choice.textContent).toContain('Their hives');
  await user.click(save());
  expect(await screen.findByText('Choose first what shall stand, above.')).toBeTruthy();
  expect(send).toHaveBeenCalledTimes(1);

  await user.click(screen.getByRole('radio', { name: /theirs/ }));
  expect(field('Name').value).toBe('Their hives');
  await user.click(screen.getByRole('radio', { name: /yours/ }));
  expect(field('Name').value).toBe('My hives');
  await user.click(save());
  expect(await screen.findByText('saved')).toBeTruthy();
  // What is chosen is chosen over theirs, so it is no conflict any more.
  expect(send).toHaveBeenLastCalledWith({ name: 'My hives', note: '' }, theirs);
  expect(screen.queryByRole('group', { name: 'name' })).toBeNull();
});

test('an empty version is shown as nothing', async () => {
  const { user, type } = await drawn();
  send.mockImplementationOnce(() => metBy(['note'], { name: 'Hives', note: '' }));
  await type('Note', 'mine');
  await user.click(save());
  expect((await screen.findByRole('group', { name: 'note' })).textContent).toContain('nothing');
});
