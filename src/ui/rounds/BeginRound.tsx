'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Draw } from '@/core/model/round';
import type { TakenOpening } from '@/core/model/takenOpening';
import { MEASURE_NAMES, METRICS, type Metric } from '@/core/measures/registry';
import { plural } from '@/core/words/format';
import type { FormResult } from '../kit/formResult';
import { Field } from '../kit/Field';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';
import { routes } from '../shell/routes';

type Given = {
  name: string;
  kind: string;
  pages: string[];
  draw: Draw;
  first: string[];
  seed: number | null;
  expectation: { metric: Metric; direction: 'up'; amount: number | null } | null;
  windowDays: number;
  settlingDays: number;
  person: string;
  followsId: number | null;
  openings: Record<string, TakenOpening>;
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
  begin: (siteId: number, given: Given) => Promise<FormResult<number>>;
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

/** Names a round, says what is expected of it and how its halves come about, and begins it. */
export function BeginRound(props: Props) {
  const { siteId, pages, kind, kindName, windowDays, settlingDays, openings, followsId, begin } = props;
  const [name, setName] = useState(props.suggested);
  const [person, setPerson] = useState('');
  const [draw, setDraw] = useState<Draw>('halves');
  const [seed, setSeed] = useState('');
  const [first, setFirst] = useState<ReadonlySet<string>>(new Set());
  const [metric, setMetric] = useState<Metric | ''>('');
  const [amount, setAmount] = useState('');
  const [errors, setErrors] = useState<Readonly<Record<string, string>>>({});
  const { act, busy } = useAct();
  const say = useToast();
  const router = useRouter();
  const submit = () => {
    const share = amount.trim() === '' ? null : Number(amount.replace(',', '.'));
    if (share !== null && !(share > 0)) return setErrors({ amount: 'An amount is a number above 0.' });
    if (seed.trim() !== '' && !/^[1-9]\d{0,8}$/.test(seed.trim()))
      return setErrors({ seed: 'A seed is a whole number above 0.' });
    setErrors({});
    act(
      async () => {
        const done = await begin(siteId, {
          ...{ name: name.trim(), kind, pages: [...pages], draw, windowDays, settlingDays, followsId },
          first: draw === 'by-hand' ? [...first] : [],
          seed: seed.trim() === '' ? null : Number(seed),
          person: person.trim(),
          expectation:
            metric === ''
              ? null
              : {
                  ...{ metric, direction: 'up' as const },
                  amount: share === null ? null : metric === 'position' ? share : share / 100,
                },
          openings: Object.fromEntries(Object.entries(openings).filter(([path]) => pages.includes(path))),
        });
        if (!done.ok)
          setErrors(Object.fromEntries(done.errors.map(({ field, message }) => [field, message])));
        return done;
      },
      (id) => {
        say('The round is begun.');
        router.push(routes.round(siteId, id, 'work'));
      },
    );
  };
  return (
    <form
      className="max-w-5xl border-t border-base-content pt-3"
      onSubmit={(e) => {
        e.preventDefault();
        submit();
      }}
    >
      <div className="flex flex-wrap items-start gap-x-4 gap-y-3">
        <Field label="Name" error={errors.name} className="w-80">
          {(c) => (
            <input
              {...c}
              required
              className="input w-full"
              maxLength={120}
              value={name}
              placeholder={`${kindName} of …`}
              onChange={(e) => setName(e.target.value)}
            />
          )}
        </Field>
        <Field label="Who" error={errors.person} className="w-24">
          {(c) => (
            <input
              {...c}
              className="input w-full"
              maxLength={60}
              value={person}
              onChange={(e) => setPerson(e.target.value)}
            />
          )}
        </Field>
        <Field label="Expected to rise" className="w-36">
          {(c) => (
            <select
              {...c}
              className="select w-full"
              value={metric}
              onChange={(e) => setMetric(e.target.value as Metric | '')}
            >
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
          error={errors.amount}
          className="w-28"
        >
          {(c) => (
            <input
              {...c}
              className="input w-full"
              inputMode="decimal"
              disabled={metric === ''}
              value={amount}
              onChange={(e) => setAmount(e.target.value)}
            />
          )}
        </Field>
      </div>
      <fieldset className="mt-3">
        <legend className="text-[0.85rem] font-semibold">Which half goes first</legend>
        {(Object.keys(DRAW_WORDS) as Draw[]).map((one) => (
          <label key={one} className="mt-1 flex items-baseline gap-2 text-[0.93rem]">
            <input
              type="radio"
              name="draw"
              className="radio radio-xs translate-y-0.5"
              checked={draw === one}
              onChange={() => setDraw(one)}
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
            error={errors.seed}
            className="mt-2 w-72"
          >
            {(c) => (
              <input
                {...c}
                className="input input-sm w-32"
                inputMode="numeric"
                value={seed}
                onChange={(e) => setSeed(e.target.value)}
              />
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
                    checked={first.has(path)}
                    onChange={() => {
                      const next = new Set(first);
                      if (!next.delete(path)) next.add(path);
                      setFirst(next);
                    }}
                  />
                  {path}
                </label>
              </li>
            ))}
          </ul>
        )}
      </fieldset>
      {(errors.pages ?? errors.first ?? errors.root) && (
        <p role="alert" className="mt-2 font-medium text-error">
          {errors.pages ?? errors.first ?? errors.root}
        </p>
      )}
      <button type="submit" className="btn btn-primary btn-sm mt-4" disabled={busy || pages.length === 0}>
        {draw === 'halves' ? 'Draw the halves and begin' : 'Begin'} with {plural(pages.length, 'page')}
      </button>
    </form>
  );
}
