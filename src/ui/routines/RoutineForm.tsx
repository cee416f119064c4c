'use client';

import { OFFERED_RULES, ruleInWords } from '@/core/routines/recurrence';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { NewRoutine } from '@/core/routines/routine';
import type { Act } from '../kit/attempt';
import { DraftNote } from '../kit/DraftNote';
import { Field } from '../kit/Field';
import { EditConflictChoice } from '../kit/EditConflictChoice';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';
import { useConflict } from '../kit/useConflict';
import { useDraft } from '../kit/useDraft';
import { useMay } from '../shell/May';
import { DayField } from '../kit/dates/DayField';
import { StepsField, typedSteps, type TypedStep } from './StepsField';

type Given = { name: string; steps: { text: string; link: string | null }[]; rule: string; firstDay: string };
export type KeepRoutine = Act<[siteId: number, id: number | null, given: Given, base: Given | null], number>;

/** Steps in words, for somebody who has to choose between two versions. */
const asText = (steps: NewRoutine['steps']) =>
  steps.map(({ text, link }) => (link === null ? text : `${text} (${link})`)).join('\n');
const asSteps = (steps: readonly TypedStep[]) =>
  steps.flatMap(({ text, link }) =>
    text.trim() === '' ? [] : { text: text.trim(), link: link.trim() || null },
  );

type Typed = { name: string; steps: readonly TypedStep[]; rule: string; firstDay: string };

type FieldsProps = {
  siteId: number;
  id: number | null;
  initial: { name: string; steps: NewRoutine['steps']; rule: string; firstDay: string };
  keep: KeepRoutine;
  kept: () => void;
};

const FIELD_NAMES: Readonly<Record<keyof Given, string>> = {
  ...{ name: 'Name of the routine', steps: 'Steps', rule: 'Repeats', firstDay: 'First day' },
};

/** Stands in the choice of rules for one that is written by hand. */
const OWN_RULE = 'own';

/** Names a routine, its steps, and when it comes again. */
export function RoutineFields({ siteId, id, initial, keep, kept }: FieldsProps) {
  const base: Typed = { ...initial, steps: typedSteps(initial.steps) };
  const [typed, setTyped] = useState(base);
  const draft = useDraft<Typed>({ what: `routine-steps:${id ?? `new:${siteId}`}`, base, show: setTyped });
  const { name, steps, rule, firstDay } = typed;
  const [ownRule, setOwnRule] = useState(() => ruleInWords(initial.rule) === null);
  const set = (edit: Partial<Typed>) => {
    setTyped({ ...typed, ...edit });
    draft.keep({ ...typed, ...edit });
  };
  const conflict = useConflict<Given>({
    initial: { ...initial, steps: initial.steps.map(({ text, link }) => ({ text, link })) },
    set: ({ steps: chosen, ...rest }) => set({ ...rest, ...(chosen && { steps: typedSteps(chosen) }) }),
    inWords: (field, of) => ({
      name: FIELD_NAMES[field as keyof Given],
      text: field === 'steps' ? asText(of.steps) : String(of[field as keyof Given]),
    }),
  });
  const [errors, setErrors] = useState<Readonly<Record<string, string>>>({});
  const { act, busy } = useAct();
  const say = useToast();
  const router = useRouter();
  return (
    <form
      className="max-w-3xl space-y-2"
      onSubmit={(e) => {
        e.preventDefault();
        act(
          async () => {
            const done = await conflict.save(
              { name: name.trim(), steps: asSteps(steps), rule: rule.trim(), firstDay },
              (given, from) => keep(siteId, id, given, id === null ? null : from),
            );
            setErrors(
              done.ok
                ? {}
                : Object.fromEntries(done.errors.map(({ field, message }) => [field.split('.')[0], message])),
            );
            return done;
          },
          () => {
            draft.forget();
            say('The routine is kept.');
            kept();
            router.refresh();
          },
        );
      }}
    >
      <DraftNote kept={draft} nameOf={(one) => one.name} />
      <Field label="Name of the routine" error={errors.name}>
        {(c) => (
          <input
            {...c}
            required
            className="input w-full"
            maxLength={120}
            value={name}
            onChange={(e) => set({ name: e.target.value })}
          />
        )}
      </Field>
      <StepsField steps={steps} onChange={(now) => set({ steps: now })} error={errors.steps} />
      <div className="flex flex-wrap gap-4">
        <Field label="Repeats" error={ownRule ? undefined : errors.rule} className="w-80">
          {(c) => (
            <select
              {...c}
              className="select w-full"
              value={ownRule ? OWN_RULE : rule}
              onChange={(e) => {
                setOwnRule(e.target.value === OWN_RULE);
                if (e.target.value !== OWN_RULE) set({ rule: e.target.value });
              }}
            >
              {[...new Set([...OFFERED_RULES, ...(ruleInWords(rule) === null ? [] : [rule])])].map((one) => (
                <option key={one} value={one}>
                  {ruleInWords(one)}
                </option>
              ))}
              <option value={OWN_RULE}>another rule …</option>
            </select>
          )}
        </Field>
        {ownRule && (
          <Field
            label="Rule"
            hint="As RFC 5545 writes it: FREQ=MONTHLY;BYDAY=1MO is every first Monday of the month."
            error={errors.rule}
            className="w-80"
          >
            {(c) => (
              <input
                {...c}
                required
                className="input w-full"
                value={rule}
                onChange={(e) => set({ rule: e.target.value })}
              />
            )}
          </Field>
        )}
        <Field label="From" error={errors.firstDay} className="w-44">
          {(c) => <DayField {...c} required value={firstDay} onChange={(day) => set({ firstDay: day })} />}
        </Field>
      </div>
      <EditConflictChoice meanwhile={conflict.meanwhile} onChoose={conflict.choose} />
      <button type="submit" className="btn btn-primary btn-sm" disabled={busy}>
        Keep the routine
      </button>
    </form>
  );
}

type Props = {
  siteId: number;
  today: string;
  ready: readonly Pick<NewRoutine, 'name' | 'steps' | 'rule'>[];
  keep: KeepRoutine;
};

/** Begins a routine: one of those that come ready, or one of one's own. */
export function RoutineForm({ siteId, today, ready, keep }: Props) {
  const [chosen, setChosen] = useState<Pick<NewRoutine, 'name' | 'steps' | 'rule'> | null>(null);
  if (!useMay('edit')) return null;
  return (
    <section className="mt-8 max-w-3xl border-t border-base-content pt-2">
      <h2 className="text-[1.15rem]">Another routine</h2>
      <p className="mb-2 flex flex-wrap gap-x-4 text-[0.93rem]">
        {ready.map((one) => (
          <button key={one.name} type="button" className="inline-link min-h-6" onClick={() => setChosen(one)}>
            {one.name}
          </button>
        ))}
        <button
          type="button"
          className="inline-link min-h-6"
          onClick={() => setChosen({ name: '', steps: [], rule: 'FREQ=MONTHLY;BYDAY=1MO' })}
        >
          One of your own
        </button>
      </p>
      {chosen && (
        <RoutineFields
          key={chosen.name}
          siteId={siteId}
          id={null}
          initial={{ ...chosen, firstDay: today }}
          keep={keep}
          kept={() => setChosen(null)}
        />
      )}
    </section>
  );
}
