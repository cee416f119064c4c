'use client';

import { useState, type ReactNode } from 'react';
import { z } from 'zod';
import type { Act } from '../kit/attempt';
import { EntityForm } from '../kit/EntityForm';
import { Field } from '../kit/Field';
import { FormDay } from '../kit/dates/FormDay';
import { AS_TYPED, useEntityForm } from '../kit/useEntityForm';

/** A field of a form about access. */
export type Asked = {
  readonly name: string;
  readonly label: string;
  readonly type?: 'text' | 'email' | 'password' | 'date';
  readonly hint?: ReactNode;
  readonly value?: string;
  /** A choice among these instead of a text. */
  readonly options?: readonly (readonly [value: string, label: string])[];
  readonly autoComplete?: string;
  readonly autoFocus?: boolean;
  readonly className?: string;
};

export type Values = Readonly<Record<string, string>>;

type Props<T> = {
  readonly fields: readonly Asked[];
  readonly submit: string;
  readonly run: Act<[values: Values], T>;
  readonly done: (value: T, values: Values) => void;
  /** The fields beside each other, for forms of a line. */
  readonly line?: boolean;
};

/** A form of a few plain fields. Passwords can be looked at, and are dropped once they were sent. */
export function AskForm<T>({ fields, submit, run, done, line = false }: Props<T>) {
  const [seen, setSeen] = useState(false);
  const hidden = fields.some(({ type }) => type === 'password');
  const initial = Object.fromEntries(
    fields.map(({ name, value, options }) => [name, value ?? options?.[0]?.[0] ?? '']),
  );
  const form = useEntityForm<Record<string, string>, Record<string, string>, T>({
    ...{ what: null, initial, schema: z.record(z.string(), z.string()), editing: false },
    codec: { ...AS_TYPED, fieldOf: (field) => (Object.hasOwn(initial, field) ? field : 'root') },
    send: (values) => run(values as Values),
    done: (value, values) => {
      form.reset(initial);
      done(value as T, values);
    },
  });
  return (
    <EntityForm
      form={form}
      body={line ? 'flex flex-wrap items-start gap-x-3 gap-y-2' : 'space-y-3'}
      buttons={
        <button type="submit" className={`btn btn-primary ${line ? 'btn-sm mt-6' : ''}`} disabled={form.busy}>
          {submit}
        </button>
      }
    >
      {fields.map(({ name, label, type = 'text', hint, options, autoComplete, autoFocus, className }) => (
        <Field
          key={name}
          label={label}
          hint={hint}
          error={form.errorOf(name)}
          {...(className && { className })}
        >
          {(control) =>
            options ? (
              <select {...control} {...form.register(name)} className="select w-full">
                {options.map(([option, text]) => (
                  <option key={option} value={option}>
                    {text}
                  </option>
                ))}
              </select>
            ) : type === 'date' ? (
              <FormDay {...control} control={form.control} name={name} />
            ) : (
              <input
                {...control}
                {...form.register(name)}
                type={type === 'password' && seen ? 'text' : type}
                autoComplete={autoComplete ?? 'off'}
                autoFocus={autoFocus}
                spellCheck={false}
                className="input w-full"
              />
            )
          }
        </Field>
      ))}
      {hidden && (
        <label className={`flex min-h-7 w-fit items-center gap-2 text-[0.85rem] ${line ? 'mt-6' : ''}`}>
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={seen}
            onChange={(e) => setSeen(e.target.checked)}
          />
          Show what is typed
        </label>
      )}
    </EntityForm>
  );
}
