'use client';

import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import { z } from 'zod';
import { DayRangeField } from '../dates/DayRangeField';
import { typedDay } from '../dates/typedDay';
import { EntityForm } from '../EntityForm';
import { useViewForm } from './useViewForm';

type Named = {
  readonly name: string;
  readonly label: string;
  /** Whether the label is read out only. */
  readonly quiet?: boolean;
  /** Classes of the control. */
  readonly className?: string;
};

/** A field of a view form, named as its parameter of the URL. */
export type ViewField =
  | (Named & { readonly type: 'text'; readonly search?: boolean })
  | (Named & { readonly type: 'lines'; readonly rows: number; readonly placeholder?: string })
  | (Named & { readonly type: 'number'; readonly min: number; readonly max: number })
  | (Named & {
      readonly type: 'choice';
      readonly options: readonly (readonly [value: string, text: string])[];
    })
  | (Omit<Named, 'name'> & {
      readonly type: 'days';
      readonly names: readonly [from: string, to: string];
      readonly labels?: readonly [from: string, to: string];
    });

type Props = {
  /** The path that the form leads to. */
  readonly action: string;
  /** Parameters that stay as they are. */
  readonly keep?: Readonly<Record<string, string>>;
  readonly fields: readonly ViewField[];
  /** The values that the URL has now; a name that is missing is empty. */
  readonly shown: Readonly<Record<string, string>>;
  readonly submit: string;
  /** Classes of the button. */
  readonly button?: string;
  readonly body?: string;
  readonly className?: string;
  readonly role?: 'search';
  readonly children?: ReactNode;
};

const namesOf = (field: ViewField): readonly string[] => (field.type === 'days' ? field.names : [field.name]);

/** A form that chooses what a screen shows. Its values live in the URL, so a link reopens the view. */
export function ViewForm(props: Props) {
  const { action, keep = {}, fields, shown, submit, button = 'btn btn-sm', children, role } = props;
  const router = useRouter();
  const names = fields.flatMap(namesOf);
  const days = fields.flatMap((field) => (field.type === 'days' ? field.names : []));
  const form = useViewForm({
    schema: z.object(Object.fromEntries(days.map((name) => [name, typedDay]))),
    shown: Object.fromEntries(names.map((name) => [name, shown[name] ?? ''])),
    go: (values) => {
      const query = new URLSearchParams(
        Object.entries({ ...keep, ...values }).filter(([, value]) => value.trim() !== ''),
      );
      router.push(query.size === 0 ? action : `${action}?${query}`);
    },
  });
  const error = days.map(form.errorOf).find((message) => message !== undefined);
  const control = (field: ViewField, id: string) => {
    const named = field.quiet ? { 'aria-label': field.label } : { id };
    switch (field.type) {
      case 'text':
        return (
          <input
            {...named}
            {...form.register(field.name)}
            {...(field.search && { 'data-search': true })}
            className={`input input-sm ${field.className ?? 'w-56'}`}
          />
        );
      case 'lines':
        return (
          <textarea
            {...named}
            {...form.register(field.name)}
            rows={field.rows}
            placeholder={field.placeholder}
            className={`textarea ${field.className ?? 'w-full'}`}
          />
        );
      case 'number':
        return (
          <input
            {...named}
            {...form.register(field.name)}
            type="number"
            min={field.min}
            max={field.max}
            className={`input input-sm ${field.className ?? 'w-24'}`}
          />
        );
      case 'choice':
        return (
          <select
            {...named}
            {...form.register(field.name)}
            className={`select select-sm ${field.className ?? 'w-auto'}`}
          >
            {field.options.map(([value, text]) => (
              <option key={value} value={value}>
                {text}
              </option>
            ))}
          </select>
        );
      case 'days':
        return (
          <DayRangeField
            {...(!field.quiet && { id })}
            {...(field.labels && { labels: field.labels })}
            className={`input-sm ${field.className ?? ''}`}
            value={{ from: form.watch(field.names[0])!, to: form.watch(field.names[1])! }}
            onChange={({ from, to }) => {
              form.setValue(field.names[0], from);
              form.setValue(field.names[1], to);
            }}
          />
        );
    }
  };
  return (
    <EntityForm
      form={form}
      {...(role && { role })}
      body={props.body ?? 'flex flex-wrap items-end gap-x-3 gap-y-2 text-[0.9rem]'}
      className={props.className ?? 'mb-4'}
      buttons={
        <>
          <button type="submit" className={button}>
            {submit}
          </button>
          {children}
        </>
      }
    >
      {fields.map((field) => {
        const id = `view-${namesOf(field)[0]!}`;
        return field.quiet ? (
          <div key={id} className="contents">
            {control(field, id)}
          </div>
        ) : (
          <div key={id}>
            <label htmlFor={id} className="mb-0.5 block text-[0.85rem] font-semibold">
              {field.label}
            </label>
            {control(field, id)}
          </div>
        );
      })}
      {error !== undefined && (
        <p role="alert" className="font-medium text-error">
          {error}
        </p>
      )}
    </EntityForm>
  );
}
