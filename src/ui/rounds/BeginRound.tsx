'use client';

import { useRouter } from 'next/navigation';
import type { z } from 'zod';
import { newRoundSchema, type Draw } from '@/core/model/round';
import type { TakenOpening } from '@/core/model/takenOpening';
import { MEASURE_NAMES, METRICS, type Metric } from '@/core/measures/registry';
import { plural } from '@/core/words/format';
import type { Act } from '../kit/attempt';
import { EntityForm } from '../kit/EntityForm';
import { Field } from '../kit/Field';
import { useToast } from '../kit/Toast';
import { useEntityForm } from '../kit/useEntityForm';
import { routes } from '../shell/routes';

type Given = z.input<typeof newRoundSchema>;

type Typed = {
  name: string;
  person: string;
  draw: Draw;
  seed: string;
  first: string[];
  metric: Metric | '';
  amount: string;
};

type Props = {
  siteId: number;
  pages: readonly string[];
  kind: string;
  kindName: string;
  windowDays: number;
  settlingDays: number;
  openings: Readonly<Record<string, TakenOpening>>;
  followsId: number | null;
  suggested: string;
  begin: Act<[siteId: number, given: Given], number>;
};

const DRAW_WORDS: Readonly<Record<Draw, readonly [name: string, about: string]>> = {
  halves: [
    'By lot',
    'Similar pages are put into blocks of up to ten, and lots are drawn within each block for the half that goes first. Only then can the halves be compared.',
  ],
  all: [
    'All at once',
    'Sooner done but harder to judge: read against the rest of the site, it calls effects that are not there more often than it says.',
  ],
  'by-hand': [
    'Chosen by hand',
    'Pages that were chosen for a reason may move by themselves; the reading will say so.',
  ],
};

const EMPTY: Typed = { name: '', person: '', draw: 'halves', seed: '', first: [], metric: '', amount: '' };

/** What is expected: a rise by percent, or by places. */
function expectation(metric: Metric, amount: string): Given['expectation'] {
  const number = amount.trim() === '' ? null : Number(amount.replace(',', '.'));
  return {
    ...{ metric, direction: 'up' },
    amount: number === null ? null : metric === 'position' ? number : number / 100,
  };
}

/** Names a round, says what is expected of it and how its halves come about, and begins it. */
export function BeginRound(props: Props) {
  const { siteId, pages, kind, kindName, windowDays, settlingDays, openings, followsId, begin } = props;
  const say = useToast();
  const router = useRouter();
  const form = useEntityForm<Typed, Given, number>({
    ...{ what: null, initial: { ...EMPTY, name: props.suggested }, schema: newRoundSchema, editing: false },
    codec: {
      toSent: ({ name, person, draw, seed, first, metric, amount }) => ({
        ...{ name: name.trim(), kind, pages: [...pages], draw, windowDays, settlingDays, followsId },
        first: draw === 'by-hand' ? first : [],
        seed: seed.trim() === '' ? null : Number(seed),
        person: person.trim(),
        expectation: metric === '' ? null : expectation(metric, amount),
        openings: Object.fromEntries(Object.entries(openings).filter(([path]) => pages.includes(path))),
      }),
      toTyped: () => EMPTY,
      fieldOf: (field) =>
        field.startsWith('expectation') ? 'amount' : Object.hasOwn(EMPTY, field) ? field : 'root',
    },
    send: (_, __, { given }) => begin(siteId, given),
    done: (id) => {
      say('The round is begun.');
      router.push(routes.round(siteId, id!, 'work'));
    },
  });
  const { register, errorOf } = form;
  const [draw, metric] = form.watch(['draw', 'metric']);
  return (
    <EntityForm
      form={form}
      className="max-w-5xl border-t border-base-content pt-3"
      draftName={({ name }) => name}
      buttons={
        <button type="submit" className="btn btn-primary btn-sm" disabled={form.busy || pages.length === 0}>
          {draw === 'halves' ? 'Draw the halves and begin' : 'Begin'} with {plural(pages.length, 'page')}
        </button>
      }
    >
      <div className="flex flex-wrap items-start gap-x-4 gap-y-3">
        <Field label="Name" error={errorOf('name')} className="w-80">
          {(c) => (
            <input
              {...c}
              className="input w-full"
              maxLength={120}
              {...register('name')}
              placeholder={`${kindName} of …`}
            />
          )}
        </Field>
        <Field label="Who" error={errorOf('person')} className="w-24">
          {(c) => <input {...c} className="input w-full" maxLength={60} {...register('person')} />}
        </Field>
        <Field label="Expected to rise" className="w-36">
          {(c) => (
            <select {...c} className="select w-full" {...register('metric')}>
              <option value="">nothing said</option>
              {METRICS.map((one) => (
                <option key={one} value={one}>
                  {MEASURE_NAMES[one]}
                </option>
              ))}
            </select>
          )}
        </Field>
        <Field
          label={metric === 'position' ? 'by places' : 'by percent'}
          error={errorOf('amount')}
          className="w-28"
        >
          {(c) => (
            <input
              {...c}
              className="input w-full"
              inputMode="decimal"
              disabled={metric === ''}
              {...register('amount')}
            />
          )}
        </Field>
      </div>
      <fieldset>
        <legend className="text-[0.85rem] font-semibold">Which half goes first</legend>
        {(Object.keys(DRAW_WORDS) as Draw[]).map((one) => (
          <label key={one} className="mt-1 flex items-baseline gap-2 text-[0.93rem]">
            <input
              type="radio"
              value={one}
              {...register('draw')}
              className="radio radio-xs translate-y-0.5"
            />
            <span>
              <b>{DRAW_WORDS[one][0]}.</b> <span className="muted">{DRAW_WORDS[one][1]}</span>
            </span>
          </label>
        ))}
        {draw === 'halves' && (
          <Field
            label="Seed of the draw"
            hint="If left empty, one is chosen. It is kept and shown, so that the draw can be repeated."
            error={errorOf('seed')}
            className="mt-2 w-72"
          >
            {(c) => (
              <input {...c} className="input input-sm w-32" inputMode="numeric" {...register('seed')} />
            )}
          </Field>
        )}
        {draw === 'by-hand' && (
          <ul
            className="mt-2 max-h-60 max-w-xl overflow-y-auto text-[0.9rem]"
            tabIndex={0}
            aria-label="Pages that go first"
          >
            {pages.map((path) => (
              <li key={path}>
                <label className="flex items-baseline gap-2 py-0.5">
                  <input
                    type="checkbox"
                    className="checkbox checkbox-xs translate-y-0.5"
                    value={path}
                    {...register('first')}
                  />
                  {path}
                </label>
              </li>
            ))}
          </ul>
        )}
        {errorOf('first') && (
          <p role="alert" className="mt-1 text-[0.85rem] font-medium text-error">
            {errorOf('first')}
          </p>
        )}
      </fieldset>
    </EntityForm>
  );
}
