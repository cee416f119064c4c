/** @jest-environment jsdom */
import { act, screen } from '@testing-library/react';
import { draw } from '../../../../tests/support/component';
import { ViewForm, type ViewField } from './ViewForm';
import { useViewForm } from './useViewForm';
import { EntityForm } from '../EntityForm';

const push = jest.fn<void, [string]>();
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: (to: string) => push(to) }) }));
beforeEach(() => push.mockReset());

const FIELDS: readonly ViewField[] = [
  { type: 'text', name: 'words', label: 'Words' },
  {
    type: 'choice',
    name: 'device',
    label: 'Device',
    options: [
      ['', 'all'],
      ['mobile', 'mobile'],
    ],
    quiet: true,
  },
  { type: 'number', name: 'days', label: 'Days back', min: 1, max: 90 },
  { type: 'lines', name: 'pages', label: 'Pages', rows: 3 },
  { type: 'days', names: ['from', 'to'], label: 'Days', labels: ['From', 'To'] },
];
const shown = { words: 'hive', device: '', days: '28', from: '2026-11-01', to: '2026-11-20', pages: '' };
const form = <ViewForm action="/here" keep={{ on: 'page' }} fields={FIELDS} shown={shown} submit="Show" />;

test('submitting leads to the URL of what was typed, without what is empty', async () => {
  const { user } = draw(form);
  await user.clear(screen.getByLabelText('Words'));
  await user.selectOptions(screen.getByLabelText('Device'), 'mobile');
  await user.type(screen.getByLabelText('Pages'), '/a/{Enter}/b/');
  await user.clear(screen.getByLabelText('To'));
  await user.type(screen.getByLabelText('To'), '21 Nov 2026');
  await user.click(screen.getByRole('button', { name: 'Show' }));
  const to = new URL(push.mock.lastCall![0], 'https://www.quillow-bees.example');
  expect(to.pathname).toBe('/here');
  expect(Object.fromEntries(to.searchParams)).toEqual({
    ...{ on: 'page', device: 'mobile', days: '28', pages: '/a/\n/b/' },
    ...{ from: '2026-11-01', to: '2026-11-21' },
  });
});

test('text that is no day is refused with a sentence, and stays', async () => {
  const { user } = draw(form);
  await user.clear(screen.getByLabelText('From'));
  await user.type(screen.getByLabelText('From'), '30 Feb 2026');
  await user.click(screen.getByRole('button', { name: 'Show' }));
  expect((await screen.findByRole('alert')).textContent).toContain('No such day');
  expect(screen.getByLabelText<HTMLInputElement>('From').value).toBe('30 Feb 2026');
  expect(push).not.toHaveBeenCalled();
});

/** A filter over two fields whose view is on its way until `arrive` is called. */
function Filter({ shown: values }: { shown: { q: string; without: string } }) {
  const view = useViewForm({ shown: values, go: ({ q, without }) => push(`${q}/${without}`) });
  return (
    <EntityForm form={view} buttons={<button type="submit">Apply</button>}>
      <input aria-label="Search" {...view.register('q')} />
      <input aria-label="Without" {...view.register('without')} />
    </EntityForm>
  );
}

test('fields follow the URL, but for what is typed while the new view is on its way', async () => {
  const { user, rerender } = draw(<Filter shown={{ q: 'hive', without: '' }} />);
  const value = (label: string) => screen.getByLabelText<HTMLInputElement>(label).value;
  await user.type(screen.getByLabelText('Search'), ' tool');
  await user.click(screen.getByRole('button', { name: 'Apply' }));
  expect(push).toHaveBeenLastCalledWith('hive tool/');
  await user.type(screen.getByLabelText('Without'), 'cheap');
  await act(async () => rerender(<Filter shown={{ q: 'hive tool', without: '' }} />));
  expect([value('Search'), value('Without')]).toEqual(['hive tool', 'cheap']);
  // Back leads to another view, which drops what was typed.
  await act(async () => rerender(<Filter shown={{ q: 'hive', without: '' }} />));
  expect([value('Search'), value('Without')]).toEqual(['hive', '']);
});
