'use client';

import { useForm } from 'react-hook-form';
import { isoDay } from '@/core/calendar/day';
import { EVENT_KINDS, newEventSchema, type NewEventInput, type OutsideEvent } from '@/core/model/event';
import { Field } from '../parts/Field';
import { FormBody } from '../parts/FormBody';
import type { FormResult } from '../parts/formResult';
import { useToast } from '../parts/Toast';

type Values = {
  name: string;
  kind: string;
  firstDay: string;
  lastDay: string;
  link: string;
  note: string;
  group: string;
  hidden: boolean;
};

const EMPTY: Values = {
  name: '',
  kind: 'algorithm-update',
  firstDay: '',
  lastDay: '',
  link: '',
  note: '',
  group: '',
  hidden: false,
};

function valuesOf(event: OutsideEvent): Values {
  return {
    name: event.name,
    kind: event.kind,
    firstDay: isoDay(event.firstDay),
    lastDay: isoDay(event.lastDay),
    link: event.link ?? '',
    note: event.note ?? '',
    group: event.group ?? '',
    hidden: event.hidden,
  };
}

type Props = {
  /** Null to note a new event. */
  event: OutsideEvent | null;
  save: (input: NewEventInput) => Promise<FormResult<null>>;
  done: () => void;
};

/** Notes an outside event, or edits one. */
export function EventForm({ event, save, done }: Props) {
  const say = useToast();
  const { register, handleSubmit, setError, reset, formState } = useForm<Values>({
    defaultValues: event ? valuesOf(event) : EMPTY,
  });
  const { errors, isSubmitting } = formState;

  const submit = handleSubmit(async (values) => {
    const input = { ...values, lastDay: values.lastDay || null } as NewEventInput;
    const checked = newEventSchema.safeParse(input);
    const result = checked.success
      ? await save(input)
      : {
          ok: false as const,
          errors: checked.error.issues.map((i) => ({ field: i.path.join('.'), message: i.message })),
        };
    if (!result.ok) {
      result.errors.forEach(({ field, message }, i) =>
        setError((field || 'root') as keyof Values, { message }, { shouldFocus: i === 0 }),
      );
      return;
    }
    say(event ? 'Saved.' : `${values.name} is in the almanac.`);
    if (!event) reset({ ...EMPTY, kind: values.kind });
    done();
  });

  return (
    <form
      onSubmit={(e) => void submit(e)}
      noValidate
      aria-label={event ? `Edit ${event.name}` : 'Note an event'}
    >
      <FormBody className="space-y-2.5">
        <Field label="Name" error={errors.name?.message}>
          {(c) => <input {...c} {...register('name')} className="input w-full" placeholder="Clover update" />}
        </Field>
        <Field label="Kind" error={errors.kind?.message}>
          {(c) => (
            <select {...c} {...register('kind')} className="select w-full">
              {Object.entries(EVENT_KINDS).map(([value, name]) => (
                <option key={value} value={value}>
                  {name}
                </option>
              ))}
            </select>
          )}
        </Field>
        <div className="grid grid-cols-2 gap-3">
          <Field label="First day" error={errors.firstDay?.message}>
            {(c) => <input {...c} {...register('firstDay')} type="date" className="input w-full" />}
          </Field>
          <Field label="Last day" hint="Empty: one day." error={errors.lastDay?.message}>
            {(c) => <input {...c} {...register('lastDay')} type="date" className="input w-full" />}
          </Field>
        </div>
        <Field
          label="Pages"
          hint="The beginning of their paths; empty: the whole site."
          error={errors.group?.message}
        >
          {(c) => <input {...c} {...register('group')} className="input w-full" placeholder="/guides/" />}
        </Field>
        <label className="flex items-baseline gap-2 text-[0.85rem]">
          <input type="checkbox" className="checkbox checkbox-sm translate-y-0.5" {...register('hidden')} />
          not shown on pictures
        </label>
        <Field label="Source link" error={errors.link?.message}>
          {(c) => (
            <input {...c} {...register('link')} type="url" className="input w-full" placeholder="https://…" />
          )}
        </Field>
        <Field label="Note" error={errors.note?.message}>
          {(c) => <textarea {...c} {...register('note')} rows={2} className="textarea w-full" />}
        </Field>
        {errors.root?.message && (
          <p role="alert" className="text-error">
            {errors.root.message}
          </p>
        )}
        <div className="flex gap-3">
          <button type="submit" className="btn btn-primary btn-sm" disabled={isSubmitting}>
            {event ? 'Save' : 'Note it'}
          </button>
          {event && (
            <button type="button" className="btn btn-ghost btn-sm" onClick={done}>
              Leave it as it was
            </button>
          )}
        </div>
      </FormBody>
    </form>
  );
}
