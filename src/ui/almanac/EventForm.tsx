'use client';

import { useForm } from 'react-hook-form';
import { editedFields, fieldsOf } from '@/core/model/edits';
import {
  EVENT_KINDS,
  eventInputOf,
  newEventSchema,
  type EventInput,
  type EventKind,
  type NewEventInput,
  type OutsideEvent,
} from '@/core/model/event';
import { attempt, type Act } from '../kit/attempt';
import { DraftNote } from '../kit/DraftNote';
import { Field } from '../kit/Field';
import { FormBody } from '../kit/FormBody';
import type { FormResult } from '../kit/formResult';
import { EditConflictChoice } from '../kit/EditConflictChoice';
import { useToast } from '../kit/Toast';
import { CHOOSE_FIRST, useEdit } from '../kit/useEdit';
import { FormDay } from '../kit/dates/FormDay';

/** Fields of an event as they are sent. */
export type EventEdit = Record<string, unknown>;

const EMPTY: EventInput = {
  ...{ name: '', kind: 'algorithm-update', firstDay: '', lastDay: '' },
  ...{ link: '', note: '', group: '', hidden: false },
};

const LABELS = {
  name: 'Name',
  kind: 'Kind',
  firstDay: 'First day',
  lastDay: 'Last day',
  group: 'Pages',
  hidden: 'Not shown on pictures',
  link: 'Source link',
  note: 'Note',
} as const satisfies Record<keyof EventInput, string>;

const asText = (field: string, value: unknown) =>
  typeof value === 'boolean'
    ? value
      ? 'yes'
      : 'no'
    : field === 'kind'
      ? EVENT_KINDS[value as EventKind]
      : String(value);

type Props = { siteId: number; done: () => void } & (
  | { event: null; note: Act<[input: NewEventInput]>; save?: never }
  /** Saves those fields that were changed, from what stood there when the edit began. */
  | { event: OutsideEvent; save: Act<[edit: EventEdit, base: EventEdit]>; note?: never }
);

/** Notes an outside event, or edits one. */
export function EventForm(props: Props) {
  const { siteId, event, done } = props;
  const say = useToast();
  const initial = event ? eventInputOf(event) : EMPTY;
  const form = useForm<EventInput>({ defaultValues: initial });
  const { register, control, handleSubmit, setError, reset, formState } = form;
  const { errors, isSubmitting } = formState;
  const { base, kept, meanwhile, met, choose, saved } = useEdit(form, {
    what: event ? `event:${event.id}` : `event:new:${siteId}`,
    initial,
    inWords: (field, values) => ({
      name: LABELS[field as keyof EventInput],
      text: asText(field, values[field as keyof EventInput]),
    }),
  });

  const complain = (problems: readonly { field: string; message: string }[]) =>
    problems.forEach(({ field, message }, i) =>
      setError((field || 'root') as keyof EventInput, { message }, { shouldFocus: i === 0 }),
    );
  const send = async (values: EventInput): Promise<FormResult<null>> => {
    const checked = newEventSchema.safeParse(values);
    if (!checked.success) {
      const found = checked.error.issues.map((i) => ({ field: i.path.join('.'), message: i.message }));
      return { ok: false, errors: found };
    }
    if (props.event === null) return attempt(() => props.note(values as NewEventInput));
    const edit = editedFields(base.current, values);
    if (Object.keys(edit).length === 0) return { ok: true, value: null };
    return attempt(() => props.save(edit, fieldsOf(base.current, Object.keys(edit))));
  };
  const submit = handleSubmit(async (values) => {
    if (meanwhile.open) {
      complain([{ field: '', message: CHOOSE_FIRST }]);
      return;
    }
    const result = await send(values);
    if (!result.ok) {
      if (result.meanwhile) met(result.meanwhile, values);
      else complain(result.errors);
      return;
    }
    const begun = event ? values : { ...EMPTY, kind: values.kind };
    saved(begun);
    say(event ? 'Saved.' : `${values.name} is in the almanac.`);
    if (!event) reset(begun);
    done();
  });

  return (
    <form
      onSubmit={(e) => void submit(e)}
      noValidate
      aria-label={event ? `Edit ${event.name}` : 'Note an event'}
    >
      <FormBody className="space-y-2.5">
        <DraftNote kept={kept} nameOf={({ name }) => name} />
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
            {(c) => <FormDay {...c} control={control} name="firstDay" />}
          </Field>
          <Field label="Last day" hint="Empty: one day." error={errors.lastDay?.message}>
            {(c) => <FormDay {...c} control={control} name="lastDay" />}
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
        <EditConflictChoice meanwhile={meanwhile} onChoose={choose} />
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
            <button
              type="button"
              className="btn btn-ghost btn-sm"
              onClick={() => {
                kept.forget();
                done();
              }}
            >
              Leave it as it was
            </button>
          )}
        </div>
      </FormBody>
    </form>
  );
}
