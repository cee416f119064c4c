'use client';

import { useController, type Control, type FieldPath, type FieldValues } from 'react-hook-form';
import type { ComponentProps } from 'react';
import { DayField } from './DayField';

type Props<T extends FieldValues> = Omit<
  ComponentProps<typeof DayField>,
  'value' | 'onChange' | 'onBlur' | 'ref'
> & {
  readonly control: Control<T>;
  readonly name: FieldPath<T>;
};

/** A day as a field of a form. */
export function FormDay<T extends FieldValues>({ control, name, ...rest }: Props<T>) {
  const { field } = useController({ control, name });
  return <DayField {...rest} {...field} disabled={rest.disabled ?? false} />;
}
