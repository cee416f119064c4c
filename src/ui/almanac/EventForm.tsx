'use client';

import {
  EVENT_KINDS,
  eventInputOf,
  newEventSchema,
  type EventInput,
  type EventKind,
  type NewEventInput,
  type OutsideEvent,
} from '@/core/model/event';
import type { Act } from '../kit/attempt';
import { EntityForm } from '../kit/EntityForm';
import { AS_TYPED, useEntityForm } from '../kit/useEntityForm';
import { Field } from '../kit/Field';
import { useToast } from '../kit/Toast';
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
  const form = useEntityForm<EventInput, EventInput, null>({
    what: event ? `event:${event.id}` : `event:new:${siteId}`,
    initial: event ? eventInputOf(event) : EMPTY,
    codec: AS_TYPED,
    schema: newEventSchema,
    editing: event !== null,
    send: (edit, base) => (props.event === null ? props.note(edit as NewEventInput) : props.save(edit, base)),
    inWords: (field, values) => ({
      name: LABELS[field as keyof EventInput],
      text: asText(field, values[field as keyof EventInput]),
    }),
    done: (_, typed) => {
      say(event ? 'Saved.' : `${typed.name} is in the almanac.`);
      if (!event) form.reset({ ...EMPTY, kind: typed.kind });
      done();
    },
  });
  const { register, control, errorOf } = form;

  return (
    <EntityForm
      form={form}
      draftName={({ name }) => name}
      aria-label={event ? `Edit ${event.name}` : 'Note an event'}
      body="space-y-2.5"
      buttons={
        <>
          <button type="submit" className="btn btn-primary btn-sm" disabled={form.busy}>
            {event ? 'Save' : 'Note it'}
          </button>
          {event && (
            <button
              type="button"
              className="btn btn-ghost btn-sm"
              onClick={() => {
                form.draft.forget();
                done();
              }}
            >
              Leave it as it was
            </button>
          )}
        </>
      }
    >
      <Field label="Name" error={errorOf('name')}>
        {(c) => <input {...c} {...register('name')} className="input w-full" placeholder="Clover update" />}
      </Field>
      <Field label="Kind" error={errorOf('kind')}>
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
        <Field label="First day" error={errorOf('firstDay')}>
          {(c) => <FormDay {...c} control={control} name="firstDay" />}
        </Field>
        <Field label="Last day" hint="Empty: one day." error={errorOf('lastDay')}>
          {(c) => <FormDay {...c} control={control} name="lastDay" />}
        </Field>
      </div>
      <Field
        label="Pages"
        hint="The beginning of their paths; empty: the whole site."
        error={errorOf('group')}
      >
        {(c) => <input {...c} {...register('group')} className="input w-full" placeholder="/guides/" />}
      </Field>
      <label className="flex items-baseline gap-2 text-[0.85rem]">
        <input type="checkbox" className="checkbox checkbox-sm translate-y-0.5" {...register('hidden')} />
        not shown on pictures
      </label>
      <Field label="Source link" error={errorOf('link')}>
        {(c) => (
          <input {...c} {...register('link')} type="url" className="input w-full" placeholder="https://…" />
        )}
      </Field>
      <Field label="Note" error={errorOf('note')}>
        {(c) => <textarea {...c} {...register('note')} rows={2} className="textarea w-full" />}
      </Field>
    </EntityForm>
  );
}
