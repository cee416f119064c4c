'use client';

import { startTransition, type ReactNode } from 'react';
import { z } from 'zod';
import { parseIsoDay } from '@/core/calendar/day';
import type { FormResult } from './formResult';
import { EntityForm } from './EntityForm';
import { FormDay } from './dates/FormDay';
import { useEntityForm } from './useEntityForm';

type Typed = { value: string };

type Props<T> = {
  /** Names the field for those who do not see it. */
  readonly label: string;
  /** What stands before the field. */
  readonly before?: ReactNode;
  readonly type?: 'text' | 'day';
  readonly initial?: string;
  readonly placeholder?: string;
  readonly maxLength?: number;
  /** False where it is not somebody's wish to type now that shows the form. */
  readonly focus?: boolean;
  /** Whether it may be left empty. */
  readonly optional?: boolean;
  /** The first day that can be chosen. */
  readonly min?: string;
  /** Under what the draft is kept; none is by default. */
  readonly draft?: string;
  readonly className?: string;
  readonly submit: string;
  /** Whether the button is drawn as one. */
  readonly button?: string;
  readonly run: (value: string) => Promise<FormResult<T>>;
  readonly done: (value: T) => void;
  /** Closes the form again, also by Escape. */
  readonly cancel?: { readonly text: string; readonly run: () => void };
  /** Further buttons. */
  readonly children?: ReactNode;
  /** What follows from what is typed. */
  readonly note?: (typed: string) => ReactNode;
};

/** A form of one field in a line of a screen. The field takes the focus unless told otherwise. */
export function InlineForm<T>(props: Props<T>) {
  const { label, before, type = 'text', initial = '', optional = false, draft, cancel, children } = props;
  const form = useEntityForm<Typed, Typed, T>({
    what: draft ?? null,
    initial: { value: initial },
    codec: {
      toSent: ({ value }) => ({ value: value.trim() }),
      toTyped: (sent) => sent,
      fieldOf: () => 'value',
    },
    schema: z.object({
      value:
        type === 'day'
          ? z.string().refine((text) => parseIsoDay(text) !== null, 'Give a day, as in 24 Nov 2026.')
          : z.string().min(optional ? 0 : 1, `${label}: fill this in.`),
    }),
    editing: false,
    send: ({ value }) => props.run(value!),
    // In a transition, so that "Undo" isn't gone before the screen has refreshed.
    done: (result) => startTransition(() => props.done(result as T)),
  });
  const leave = () => {
    form.draft.forget();
    cancel?.run();
  };
  const error = form.errorOf('value');
  const value = form.watch('value');
  return (
    <EntityForm
      form={form}
      draftName={({ value: typed }) => typed}
      body="flex flex-wrap items-center gap-x-2 gap-y-1"
      onKeyDown={(e) => e.key === 'Escape' && cancel && leave()}
      buttons={
        <>
          <button type="submit" className={props.button ?? 'inline-link'} disabled={form.busy}>
            {props.submit}
          </button>
          {children}
          {cancel && (
            <button type="button" className="inline-link" onClick={leave}>
              {cancel.text}
            </button>
          )}
        </>
      }
    >
      {before}
      {type === 'day' ? (
        <FormDay
          control={form.control}
          name="value"
          autoFocus={props.focus ?? true}
          aria-label={label}
          aria-invalid={error !== undefined}
          className={`input-sm ${props.className ?? 'w-36'}`}
          {...(props.min !== undefined && { min: props.min })}
        />
      ) : (
        <input
          {...form.register('value')}
          autoFocus={props.focus ?? true}
          aria-label={label}
          aria-invalid={error !== undefined}
          className={`input input-sm ${props.className ?? 'w-52'}`}
          placeholder={props.placeholder}
          maxLength={props.maxLength}
        />
      )}
      {error !== undefined && (
        <span role="alert" className="text-[0.85rem] font-medium text-error">
          {error}
        </span>
      )}
      {props.note && (
        <span role="status" className="muted">
          {props.note(value)}
        </span>
      )}
    </EntityForm>
  );
}
