'use client';

import { useState, type FormEvent, type ReactNode } from 'react';
import { attempt, type Act } from '../kit/attempt';
import { Field } from '../kit/Field';
import { FormBody } from '../kit/FormBody';
import { NamedDayField } from '../kit/dates/DayField';

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
  const [errors, setErrors] = useState<Values>({});
  const [busy, setBusy] = useState(false);
  const [seen, setSeen] = useState(false);
  const hidden = fields.some(({ type }) => type === 'password');
  const send = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = event.currentTarget;
    const data = new FormData(form);
    const values = Object.fromEntries(fields.map(({ name }) => [name, String(data.get(name) ?? '')]));
    setBusy(true);
    const result = await attempt(() => run(values));
    setBusy(false);
    if (!result.ok) {
      setErrors(Object.fromEntries(result.errors.map(({ field, message }) => [field, message])));
      return;
    }
    setErrors({});
    form.reset();
    done(result.value, values);
  };
  const known = new Set(fields.map(({ name }) => name));
  const rest = Object.entries(errors).flatMap(([field, message]) => (known.has(field) ? [] : [message]));
  return (
    <form onSubmit={(event) => void send(event)} noValidate>
      <FormBody className={line ? 'flex flex-wrap items-start gap-x-3 gap-y-2' : 'space-y-3'}>
        {fields.map(
          ({ name, label, type = 'text', hint, value, options, autoComplete, autoFocus, className }) => (
            <Field
              key={name}
              label={label}
              hint={hint}
              error={errors[name]}
              {...(className && { className })}
            >
              {(control) =>
                options ? (
                  <select {...control} name={name} defaultValue={value} className="select w-full">
                    {options.map(([option, text]) => (
                      <option key={option} value={option}>
                        {text}
                      </option>
                    ))}
                  </select>
                ) : type === 'date' ? (
                  <NamedDayField
                    {...control}
                    name={name}
                    {...(value !== undefined && { defaultValue: value })}
                  />
                ) : (
                  <input
                    {...control}
                    name={name}
                    type={type === 'password' && seen ? 'text' : type}
                    defaultValue={value}
                    autoComplete={autoComplete ?? 'off'}
                    autoFocus={autoFocus}
                    spellCheck={false}
                    className="input w-full"
                  />
                )
              }
            </Field>
          ),
        )}
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
        {rest.length > 0 && (
          <p role="alert" className="basis-full font-medium text-error">
            {rest.join(' ')}
          </p>
        )}
        <button type="submit" className={`btn btn-primary ${line ? 'btn-sm mt-6' : ''}`} disabled={busy}>
          {submit}
        </button>
      </FormBody>
    </form>
  );
}
