/** @jest-environment jsdom */
import { screen, within } from '@testing-library/react';
import { done, draw, metBy, refusedFor } from '../../../tests/support/component';
import type { FormResult } from '../kit/formResult';
import { ReportForm, type ReportValues } from './ReportForm';

const router = { push: jest.fn(), refresh: jest.fn() };
jest.mock('next/navigation', () => ({ useRouter: () => router }));

type Result = Promise<FormResult<number>>;
const SAVED: ReportValues = {
  ...{ title: 'Autumn', from: '2026-09-01', to: '2026-09-30', scope: { kind: 'site' } },
  ...{ parts: ['traffic', 'changes', 'next'], leaveOut: [], words: {}, ink: 'ink', logo: null },
};
const SITE = { name: 'the whole site', scope: { kind: 'site' } } as const;

const make = jest.fn<Result, [ReportValues]>();
const edit = jest.fn<Result, [ReportValues, ReportValues]>();
beforeEach(() => {
  jest.resetAllMocks();
  localStorage.clear();
  sessionStorage.clear();
  make.mockImplementation(() => done(7));
  edit.mockImplementation(() => done(7));
});

const form = (save: Parameters<typeof ReportForm>[0]['save'], initial = SAVED) =>
  draw(
    <ReportForm
      {...{ siteId: 1, initial, scopes: [SITE], changes: [], what: 'report:7', save, button: 'Keep it' }}
    />,
  );
const keep = () => screen.getByRole('button', { name: 'Keep it' });
const title = () => screen.getByLabelText<HTMLInputElement>('Title');

test('a new report is sent alone, and its screen opened', async () => {
  const { user } = form({ make }, { ...SAVED, title: '' });
  await user.type(title(), 'Winter');
  await user.click(keep());
  expect(make.mock.calls).toEqual([[{ ...SAVED, title: 'Winter' }]]);
  expect(router.push).toHaveBeenCalledWith('/sites/1/reports/7');
});

test('an edited report is sent with what it began from', async () => {
  const { user } = form({ edit, id: 7 });
  await user.clear(title());
  await user.type(title(), 'Autumn, in short');
  await user.click(keep());
  expect(edit.mock.calls).toEqual([[{ ...SAVED, title: 'Autumn, in short' }, SAVED]]);
});

test('of two versions both are shown beside the button, by the name of the field', async () => {
  edit.mockImplementationOnce(() =>
    metBy(['title', 'parts'], { ...SAVED, title: 'Theirs', parts: ['next'] }),
  );
  const { user } = form({ edit, id: 7 });
  await user.clear(title());
  await user.type(title(), 'Mine');
  await user.click(keep());
  const choice = await screen.findByRole('group', { name: 'Title' });
  await user.click(within(choice).getByRole('radio', { name: /theirs/ }));
  expect(title().value).toBe('Theirs');
  const parts = screen.getByRole('group', { name: 'Parts' });
  expect(parts.textContent).toContain('What is next');
  await user.click(within(parts).getByRole('radio', { name: /yours/ }));
  await user.click(keep());
  expect(edit).toHaveBeenLastCalledWith(
    { ...SAVED, title: 'Theirs' },
    { ...SAVED, title: 'Theirs', parts: ['next'] },
  );
});

test('parts are moved, left out, and taken in again', async () => {
  const { user } = form({ make });
  const order = () => screen.getAllByRole('button', { name: /^Down: / }).map((one) => one.ariaLabel);
  const names = order();
  expect(screen.getByRole<HTMLButtonElement>('button', { name: /^Up: What happened/ }).disabled).toBe(true);
  await user.click(screen.getByRole('button', { name: /^Down: What happened/ }));
  expect(order()).toEqual([names[1], names[0], names[2]]);
  await user.click(screen.getByRole('button', { name: /^Leave out: What is next/ }));
  expect(order()).toHaveLength(2);
  await user.click(screen.getByRole('button', { name: 'What is next' }));
  await user.click(keep());
  expect(make.mock.calls[0]![0].parts).toEqual(['changes', 'traffic', 'next']);
});

test('what is wrong is said beside its field, and what was typed stays', async () => {
  make.mockImplementationOnce(() => refusedFor('to', 'The last day comes before the first.'));
  const { user } = form({ make });
  await user.type(title(), ' 2026');
  await user.click(keep());
  expect(screen.getByLabelText('To').getAttribute('aria-invalid')).toBe('true');
  expect(await screen.findAllByText('The last day comes before the first.')).toHaveLength(1);
  expect(title().value).toBe('Autumn 2026');
  expect(router.push).not.toHaveBeenCalled();
});

test('a logo that is too large is refused before it is read', async () => {
  const { user } = form({ make });
  const large = new File([new Uint8Array(200_001)], 'logo.png', { type: 'image/png' });
  await user.upload(screen.getByLabelText('Logo'), large);
  expect(await screen.findByText('The logo is too large: at most 200 kB.')).toBeTruthy();
  await user.upload(screen.getByLabelText('Logo'), new File(['x'], 'logo.png', { type: 'image/png' }));
  expect(await screen.findByRole('button', { name: 'No logo' })).toBeTruthy();
  await user.click(keep());
  expect(make.mock.calls[0]![0].logo).toMatch(/^data:image\/png;base64,/);
});
