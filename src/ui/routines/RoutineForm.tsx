'use client';

import { OFFERED_RULES, ruleInWords } from '@/core/routines/recurrence';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Controller } from 'react-hook-form';
import { newRoutineSchema, type NewRoutine } from '@/core/routines/routine';
import type { Act } from '../kit/attempt';
import { Field } from '../kit/Field';
import { useToast } from '../kit/Toast';
import { useMay } from '../shell/May';
import { EntityForm } from '../kit/EntityForm';
import { FormDay } from '../kit/dates/FormDay';
import { useEntityForm, type FormCodec } from '../kit/useEntityForm';
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

/** How what is typed of a routine is sent. */
const ROUTINE_CODEC: FormCodec<Typed, Given> = {
  toSent: ({ name, steps, rule, firstDay }) => ({
    ...{ name: name.trim(), steps: asSteps(steps), rule: rule.trim(), firstDay },
  }),
  toTyped: ({ name, steps, rule, firstDay }) => ({ name, steps: typedSteps(steps), rule, firstDay }),
};

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
  const [ownRule, setOwnRule] = useState(() => ruleInWords(initial.rule) === null);
  const say = useToast();
  const router = useRouter();
  const form = useEntityForm<Typed, Given, number>({
    what: `routine-steps:${id ?? `new:${siteId}`}`,
    initial: ROUTINE_CODEC.toTyped(initial),
    codec: ROUTINE_CODEC,
    schema: newRoutineSchema,
    editing: id !== null,
    send: (_, __, { given, base }) => keep(siteId, id, given, id === null ? null : base),
    inWords: (field, typed) => ({
      name: FIELD_NAMES[field as keyof Given],
      text: field === 'steps' ? asText(asSteps(typed.steps)) : String(typed[field as keyof Given]),
    }),
    done: () => {
      say('The routine is kept.');
      kept();
      router.refresh();
    },
  });
  const { register, control, watch, setValue, errorOf } = form;
  const rule = watch('rule');
  return (
    <EntityForm
      form={form}
      draftName={({ name }) => name}
      className="max-w-3xl"
      body="space-y-2"
      buttons={
        <button type="submit" className="btn btn-primary btn-sm" disabled={form.busy}>
          Keep the routine
        </button>
      }
    >
      <Field label="Name of the routine" error={errorOf('name')}>
        {(c) => <input {...c} {...register('name')} className="input w-full" maxLength={120} />}
      </Field>
      <Controller
        control={control}
        name="steps"
        render={({ field }) => (
          <StepsField steps={field.value} onChange={field.onChange} error={errorOf('steps')} />
        )}
      />
      <div className="flex flex-wrap gap-4">
        <Field label="Repeats" error={ownRule ? undefined : errorOf('rule')} className="w-80">
          {(c) => (
            <select
              {...c}
              className="select w-full"
              value={ownRule ? OWN_RULE : rule}
              onChange={(e) => {
                setOwnRule(e.target.value === OWN_RULE);
                if (e.target.value !== OWN_RULE) setValue('rule', e.target.value);
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
            error={errorOf('rule')}
            className="w-80"
          >
            {(c) => <input {...c} {...register('rule')} className="input w-full" />}
          </Field>
        )}
        <Field label="From" error={errorOf('firstDay')} className="w-44">
          {(c) => <FormDay {...c} control={control} name="firstDay" />}
        </Field>
      </div>
    </EntityForm>
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
