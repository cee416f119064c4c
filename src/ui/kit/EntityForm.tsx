'use client';

import type { ComponentProps, ReactNode } from 'react';
import type { FieldValues } from 'react-hook-form';
import { DraftNote } from './DraftNote';
import { EditConflictChoice } from './EditConflictChoice';
import { FormBody } from './FormBody';
import type { EntityForm as Form } from './useEntityForm';

type Props<Typed extends FieldValues> = Omit<ComponentProps<'form'>, 'onSubmit' | 'children'> & {
  /** What the Enter key does where it does not save. */
  readonly onEnter?: () => void;
  readonly form: Form<Typed>;
  /** What a draft that another tab left is called; forms that keep none need no name. */
  readonly draftName?: (typed: Typed) => string;
  readonly heading?: ReactNode;
  /** Classes of the part that holds the fields. */
  readonly body?: string;
  readonly children: ReactNode;
  /** What stands in the last line: the button that saves, and others. */
  readonly buttons: ReactNode;
};

/** Draws a form of `useEntityForm`: drafts that were left, the fields, both versions of what somebody else changed, what went wrong. */
export function EntityForm<Typed extends FieldValues>(props: Props<Typed>) {
  const {
    form,
    draftName = () => '',
    heading,
    body = 'space-y-3',
    children,
    buttons,
    onEnter,
    ...rest
  } = props;
  const root = form.errorOf('root');
  return (
    <form
      {...rest}
      onSubmit={(event) => {
        event.preventDefault();
        if (onEnter) onEnter();
        else void form.submit(event);
      }}
      noValidate
    >
      <FormBody className={body}>
        {heading}
        <DraftNote kept={form.draft} nameOf={draftName} />
        {children}
        <EditConflictChoice meanwhile={form.conflict} onChoose={form.choose} />
        {root !== undefined && (
          <p role="alert" className="text-error">
            {root}
          </p>
        )}
        {buttons && <div className="flex flex-wrap items-center gap-3">{buttons}</div>}
      </FormBody>
    </form>
  );
}
