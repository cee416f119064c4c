/** @jest-environment jsdom */
import { screen, waitFor, within } from '@testing-library/react';
import { done, draw, metBy } from '../../../tests/support/component';
import type { FormResult } from '../kit/formResult';
import { DraftBench } from './DraftBench';

type Written = [siteId: number, id: number, text: string, base: string];
const write = jest.fn<Promise<FormResult<null>>, Written>();
const drop = jest.fn(() => done(null));
beforeEach(() => {
  drop.mockClear();
  write.mockReset().mockImplementation(() => done(null));
});

const bench = () =>
  draw(
    <DraftBench
      {...{ siteId: 1, resultPageId: 2, pageId: 3, of: 'title', present: 'Honey', other: null }}
      drafts={[{ id: 9, text: 'Raw honey' }]}
      takeOn="/sites/1/ledger/new?page=3"
      begin={() => done(10)}
      hold={() => done([])}
      {...{ write, drop }}
    />,
  );
const draft = () => screen.getByLabelText<HTMLTextAreaElement>('Draft A of the title');

test('a draft is written when typing stops, from the text that it had', async () => {
  const { user } = bench();
  await user.type(draft(), ' in jars');
  expect(write).not.toHaveBeenCalled();
  await waitFor(() => expect(write).toHaveBeenCalledTimes(1), { timeout: 5000 });
  expect(write).toHaveBeenCalledWith(1, 9, 'Raw honey in jars', 'Raw honey');
  await user.type(draft(), '!');
  await waitFor(() => expect(write).toHaveBeenCalledTimes(2), { timeout: 5000 });
  expect(write).toHaveBeenLastCalledWith(1, 9, 'Raw honey in jars!', 'Raw honey in jars');
});

test('a text of somebody else is not written over before one is chosen', async () => {
  write.mockImplementationOnce(() => metBy(['text'], { text: 'Their honey' }));
  const { user } = bench();
  await user.type(draft(), ' of mine');
  const choice = await screen.findByRole('group', { name: 'This draft' }, { timeout: 5000 });
  expect(choice.textContent).toContain('Raw honey of mine');
  expect(choice.textContent).toContain('Their honey');
  await user.type(draft(), '?');
  await new Promise((resolve) => setTimeout(resolve, 1000));
  expect(write).toHaveBeenCalledTimes(1);
  await user.click(within(choice).getByRole('radio', { name: /yours/ }));
  await waitFor(() => expect(write).toHaveBeenCalledTimes(2), { timeout: 5000 });
  expect(write).toHaveBeenLastCalledWith(1, 9, 'Raw honey of mine', 'Their honey');
});

test('a draft is dropped, and taken back', async () => {
  const { user } = bench();
  await user.click(screen.getByRole('button', { name: 'drop draft A' }));
  await waitFor(() => expect(screen.queryByLabelText('Draft A of the title')).toBeNull());
  await user.click(screen.getByRole('button', { name: 'Undo' }));
  expect((await screen.findByLabelText<HTMLTextAreaElement>('Draft A of the title')).value).toBe('Raw honey');
  expect(drop.mock.calls).toEqual([
    [1, 9, true],
    [1, 9, false],
  ]);
});
